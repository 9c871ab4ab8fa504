"""Words of English."""

from glyptarch_core.languages.record import Language, phrases, words

__all__ = ["LANGUAGE"]

LANGUAGE = Language(
    code="en",
    quotes=("“", "”", "‘", "’"),
    titles=words("capt col dr fr gen gov hon lt mr mrs ms mt pres prof rep rev sen sgt st"),
    abbreviations=words(
        "approx apr aug ave blvd cf chap co corp dec dept ed est etc feb fig figs ft inc jan jr jul jun "
        "ltd mar max min nos nov oct ph.d pp resp sep sept vol vs viz"
    ),
    openers=words(
        "after all also an and as at but by for from he her here his how if in it its my no not now on "
        "our she so that the their then there these they this to we what when where who why with yes you "
        "your"
    ),
    byline=phrases("by | written by | posted by | words by | story by | text by | author | reported by"),
    dated=phrases(
        "published | published on | posted | posted on | updated | last updated | updated on | first published"
    ),
    date_words=words("at on of the"),
    today=phrases("today"),
    yesterday=phrases("yesterday"),
    notices=phrases(
        "sign up for our | sign up to our | subscribe to our | our newsletter | advertisement | all "
        "rights reserved | follow us on | share this article | share this story | share this post | "
        "unsubscribe at any time | already a subscriber | already a member | we use cookies | enable "
        "javascript | turn on javascript"
    ),
    read_more=phrases(
        "read more | read on | read also | see also | read next | continue reading | more | related "
        "articles | related stories"
    ),
    next_page=phrases(
        "next | next page | older | older posts | earlier | more stories | more articles | more posts | "
        "more news | load more | show more"
    ),
    consent=phrases(
        "we use cookies | our partners use cookies | before you continue | your privacy choices | cookie "
        "preferences | cookie settings | manage preferences | manage options"
    ),
    agree=phrases("accept | accept all | agree | i agree | allow all | got it | reject | reject all | decline"),
    paywall=phrases(
        "subscribe to read | subscribe to continue | to continue reading | to keep reading | for "
        "subscribers only | subscribers only | members only | unlock this article | already a subscriber "
        "| start your subscription | free articles left"
    ),
    missing=phrases(
        "not found | page is missing | access denied | something went wrong | server error | temporarily "
        "unavailable | under maintenance | error occurred"
    ),
    login=phrases("log in | sign in | password"),
    tagged=phrases("tags | tagged | tagged with | tagged as | topics | keywords | filed under | labels"),
    buying=phrases("add to basket | add to cart | add to bag | buy now | buy | put in the basket"),
)
