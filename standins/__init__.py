"""Stand-ins for systems outside: a store for learning records, and a platform that assigns work.

A Django project of its own, with its own database and keys. It ships with Vendaval so that sending,
trying again and launching can be seen and tested on one machine; Vendaval runs without it.
"""
