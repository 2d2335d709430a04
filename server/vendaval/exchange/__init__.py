"""Questions from elsewhere: read, looked through, and taken into a course, all or nothing."""
