"""What uvicorn serves."""

import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "glyptarch_server.config.settings")
application = get_asgi_application()

from glyptarch_server.common.process import tune_process  # noqa: E402 - after all that it tunes
from glyptarch_server.proofs.warming import begin_warming  # noqa: E402 - needs the apps to be set up

tune_process()
begin_warming()
