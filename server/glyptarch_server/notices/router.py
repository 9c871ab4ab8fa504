"""The API of messages."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server.accounts.queries import signed_in
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.campaigns.queries import campaign_of
from glyptarch_server.mail.actions import mail_is_set_up
from glyptarch_server.notices import actions, queries
from glyptarch_server.notices.queries import Digest
from glyptarch_server.notices.schemas import AddressIn, AddressOut, ChoiceIn, ChoiceOut

__all__ = ["router"]

router = Router(tags=["notices"])


@router.get("/blogs/{blog}/notices", response=ChoiceOut, operation_id="getNotices")
def get_notices(request: HttpRequest, blog: str) -> ChoiceOut:
    """Return the notices of the signed-in person about a blog."""
    user = signed_in(request)
    row = queries.choice_of(blog_for(request.user, blog), user)
    return ChoiceOut(
        problems=row.problems,
        posts=row.posts,
        digest=Digest(row.digest),
        address=user.email,
        mail_is_set_up=mail_is_set_up(),
    )


@router.put("/blogs/{blog}/notices", response=ChoiceOut, operation_id="setNotices")
def set_notices(request: HttpRequest, blog: str, payload: ChoiceIn) -> ChoiceOut:
    """Set the notices of the signed-in person about a blog."""
    actions.choose(
        blog_for(request.user, blog),
        signed_in(request),
        problems=payload.problems,
        posts=payload.posts,
        digest=payload.digest,
    )
    return get_notices(request, blog)


@router.get("/blogs/{blog}/campaigns/{slug}/address", response=AddressOut, operation_id="getCampaignAddress")
def get_campaign_address(request: HttpRequest, blog: str, slug: str) -> AddressOut:
    """Return the address notified of a campaign's runs."""
    campaign = campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    return AddressOut(email=queries.address_for(campaign), mail_is_set_up=mail_is_set_up())


@router.put("/blogs/{blog}/campaigns/{slug}/address", response=AddressOut, operation_id="setCampaignAddress")
def set_campaign_address(request: HttpRequest, blog: str, slug: str, payload: AddressIn) -> AddressOut:
    """Set the address notified of a campaign's runs.

    An empty one removes it.
    """
    campaign = campaign_of(blog_for(request.user, blog, Role.EDITOR), slug)
    actions.set_campaign_address(campaign, payload.email)
    return AddressOut(email=queries.address_for(campaign), mail_is_set_up=mail_is_set_up())
