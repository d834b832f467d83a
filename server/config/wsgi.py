"""WSGI entry point for gunicorn."""

import os

from django.core.wsgi import get_wsgi_application

os.umask(0o077)  # database and photos are for whoever runs the server alone
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
application = get_wsgi_application()
