"""The stand-ins as a web application."""

import os

from django.core.wsgi import get_wsgi_application

os.environ["DJANGO_SETTINGS_MODULE"] = "standins.settings"
application = get_wsgi_application()
