"""The one product that a post is about, found by the database as its products are, so that lists of goods join by it."""

from django.db import migrations, models

# It calls no other function of ours: a backup is restored without a search path.
_FUNCTION = """
CREATE FUNCTION product_in(body text) RETURNS varchar(400) LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT CASE WHEN strpos(body, 'data-products="') = 0 THEN '' ELSE COALESCE((
        SELECT min(key)
        FROM regexp_matches(body, 'data-products="([^"]*)"', 'g') AS places(keys),
             regexp_split_to_table(places.keys[1], ' +') AS key
        WHERE key <> ''
        HAVING count(DISTINCT key) = 1
    ), '') END
$$;
"""


class Migration(migrations.Migration):
    dependencies = [("posts", "0016_hub")]
    operations = [
        migrations.RunSQL(_FUNCTION, "DROP FUNCTION product_in(text);"),
        migrations.AddField(
            model_name="post",
            name="product",
            field=models.GeneratedField(
                db_persist=True,
                expression=models.Func("body", function="product_in"),
                output_field=models.CharField(max_length=400),
            ),
        ),
        migrations.AddIndex(
            model_name="post",
            index=models.Index(
                fields=["blog", "product", "-date", "-id"],
                condition=models.Q(("product", ""), _negated=True),
                name="post_about_product",
            ),
        ),
    ]
