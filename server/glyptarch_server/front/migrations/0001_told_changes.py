"""Triggers that tell every web process which blog's pages have changed (``common/blog_changes.py``).

A blog *has grown* where something came in that older pages merely lack; everything else *has changed* it. PostgreSQL
sends a message when the transaction is committed, and equal ones of a transaction once. Rows are watched here rather
than in Python, because most of the product writes many rows with one statement, which no signal of Django tells.
"""

from typing import NamedTuple

from django.db import migrations

_FUNCTIONS = """
CREATE FUNCTION tell_blog_change(blog bigint, kind text) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
    IF blog IS NOT NULL THEN
        PERFORM pg_notify('blog_pages', blog || ' ' || kind);
    END IF;
END $$;

CREATE FUNCTION tell_change_of_blog() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM tell_blog_change(COALESCE(NEW.id, OLD.id), TG_ARGV[0]);
    RETURN NULL;
END $$;

CREATE FUNCTION tell_change_in_blog() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM tell_blog_change(COALESCE(NEW.blog_id, OLD.blog_id), TG_ARGV[0]);
    RETURN NULL;
END $$;

CREATE FUNCTION tell_change_in_post() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM tell_blog_change(
        (SELECT blog_id FROM posts_post WHERE id = COALESCE(NEW.post_id, OLD.post_id) AND state = 'published'),
        TG_ARGV[0]
    );
    RETURN NULL;
END $$;

CREATE FUNCTION tell_change_in_source() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM tell_blog_change((SELECT blog_id FROM sources_source WHERE id = NEW.source_id), TG_ARGV[0]);
    RETURN NULL;
END $$;
"""
_NO_FUNCTIONS = """
DROP FUNCTION tell_change_in_source, tell_change_in_post, tell_change_in_blog, tell_change_of_blog, tell_blog_change;
"""


class _Watch(NamedTuple):
    name: str
    table: str
    event: str
    kind: str
    where: str = "in_blog"
    only: str = ""

    def made(self) -> str:
        only = f"WHEN ({self.only}) " if self.only else ""
        return (
            f"CREATE TRIGGER {self.name} AFTER {self.event} ON {self.table} FOR EACH ROW {only}"
            f"EXECUTE FUNCTION tell_change_{self.where}('{self.kind}');"
        )

    def dropped(self) -> str:
        return f"DROP TRIGGER {self.name} ON {self.table};"


_NAMES = ("blogs_category", "blogs_tag", "blogs_byline")
_OF_POSTS = ("posts_post_categories", "posts_post_tags", "posts_alsoat")
_SHOWN = (
    "blog_id, slug, state, title, body, excerpt, lead_url, lead_alt, spare_leads, copies_pictures, "
    "copies_recordings_mb, description, fields, category_id, byline_id, link, language, attribution, kind, comments, "
    "pinned, visibility, pass_phrase, canonical, date, changed_at"
)
_WATCHES = (
    _Watch("page_blog", "blogs_blog", "UPDATE OF slug, title, tagline, language, player_hosts, removed_at OR DELETE",
           "changed", "of_blog"),
    _Watch("page_post_made", "posts_post", "INSERT", "grown", only="NEW.state = 'published'"),
    _Watch("page_post_out", "posts_post", "UPDATE", "grown",
           only="OLD.state <> 'published' AND NEW.state = 'published'"),
    _Watch("page_post_edited", "posts_post", f"UPDATE OF {_SHOWN}", "changed", only="OLD.state = 'published'"),
    _Watch("page_post_gone", "posts_post", "DELETE", "changed", only="OLD.state = 'published'"),
    *(_Watch("page_name", table, "UPDATE OR DELETE", "changed") for table in _NAMES),
    *(_Watch("page_post_gains", table, "INSERT", "grown", "in_post") for table in _OF_POSTS),
    *(_Watch("page_post_loses", table, "UPDATE OR DELETE", "changed", "in_post") for table in _OF_POSTS),
    _Watch("page_comment_made", "comments_comment", "INSERT", "changed", only="NEW.state = 'shown'"),
    _Watch("page_comment", "comments_comment", "UPDATE OR DELETE", "changed"),
    _Watch("page_picture", "media_picture", "UPDATE OR DELETE", "changed"),
    _Watch("page_copy_made", "media_picturecopy", "INSERT", "grown", only="NEW.state = 'kept'"),
    _Watch("page_copy_here", "media_picturecopy", "UPDATE OF state, picture_id", "grown", only="OLD.state <> 'kept'"),
    _Watch("page_copy_gone", "media_picturecopy", "UPDATE OF state, picture_id OR DELETE", "changed",
           only="OLD.state = 'kept'"),
    _Watch("page_recording_made", "media_recording", "INSERT", "grown", only="NEW.state = 'kept'"),
    _Watch("page_recording_here", "media_recording", "UPDATE OF state, file", "grown", only="OLD.state <> 'kept'"),
    _Watch("page_recording_gone", "media_recording", "UPDATE OF state, file OR DELETE", "changed",
           only="OLD.state = 'kept'"),
    _Watch("page_source", "sources_source", "UPDATE OF title", "changed", only="OLD.title <> NEW.title"),
    _Watch("page_item", "items_item", "UPDATE OF link, facts, media", "grown", "in_source",
           only="OLD.link <> NEW.link OR OLD.facts <> NEW.facts OR OLD.media <> NEW.media"),
)  # fmt: skip


class Migration(migrations.Migration):
    dependencies = [
        ("blogs", "0008_player_hosts"),
        ("posts", "0012_corrections"),
        ("comments", "0002_pages"),
        ("media", "0003_tasks"),
        ("items", "0014_corrected"),
        ("sources", "0021_causes"),
    ]
    operations = [
        migrations.RunSQL(_FUNCTIONS, _NO_FUNCTIONS),
        migrations.RunSQL(
            "\n".join(watch.made() for watch in _WATCHES), "\n".join(watch.dropped() for watch in _WATCHES)
        ),
    ]
