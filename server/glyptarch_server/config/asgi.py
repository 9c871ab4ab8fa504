"""The ASGI application."""

import os
from importlib import import_module

from django.core.asgi import get_asgi_application

from glyptarch_server.common.blog_changes import changes, connection_parameters
from glyptarch_server.common.intake import Intake
from glyptarch_server.common.page_cache import PageCache
from glyptarch_server.common.process import importing, tune_process

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "glyptarch_server.config.settings")
with importing():
    site = get_asgi_application()
    reads = import_module("glyptarch_server.posts.counting").reads
    application = Intake(
        PageCache(site, changes, listen=lambda: changes.listen(connection_parameters), read=reads.note)
    )
    # Otherwise the first request imports every view.
    import_module("glyptarch_server.config.urls")

from glyptarch_server.proofs.warming import begin_warming

tune_process()
begin_warming()
