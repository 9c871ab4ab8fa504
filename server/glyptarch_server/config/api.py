"""The API: the routers of all apps under one schema."""

from ninja import NinjaAPI
from ninja.security import SessionAuth

from glyptarch_server.accounts.router import router as accounts
from glyptarch_server.blogs.router import router as blogs
from glyptarch_server.campaigns.router import router as campaigns
from glyptarch_server.comments.router import router as comments
from glyptarch_server.common.problems import install_problem_handlers
from glyptarch_server.front.router import router as front
from glyptarch_server.items.router import router as items
from glyptarch_server.posts.router import router as posts
from glyptarch_server.proofs.router import router as proofs
from glyptarch_server.runs.router import router as runs
from glyptarch_server.sources.router import router as sources

__all__ = ["api"]

api = NinjaAPI(title="Glyptarch", version="1", auth=SessionAuth(csrf=True), docs_url=None, openapi_url=None)
install_problem_handlers(api)
for part in (accounts, blogs, sources, items, campaigns, posts, comments, runs, proofs, front):
    api.add_router("", part)
