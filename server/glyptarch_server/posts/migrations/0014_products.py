"""The keys of the products that the text of a post shows, found by the database, so that no way of writing forgets them."""

import django.contrib.postgres.fields
import django.contrib.postgres.indexes
from django.db import migrations, models

# Keys have no spaces, quotes or markup (``product_key`` in core), so HTML writes them as they are.
_FUNCTION = """
CREATE FUNCTION products_in(body text) RETURNS varchar(400)[] LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT CASE WHEN strpos(body, 'data-products="') = 0 THEN '{}'::varchar(400)[] ELSE COALESCE((
        SELECT array_agg(DISTINCT key::varchar(400) ORDER BY key::varchar(400))
        FROM regexp_matches(body, 'data-products="([^"]*)"', 'g') AS places(keys),
             regexp_split_to_table(places.keys[1], ' +') AS key
        WHERE key <> ''
    ), '{}') END
$$;
"""


class Migration(migrations.Migration):
    dependencies = [("posts", "0013_by_kind")]
    operations = [
        migrations.RunSQL(_FUNCTION, "DROP FUNCTION products_in(text);"),
        migrations.AddField(
            model_name="post",
            name="products",
            field=models.GeneratedField(
                db_persist=True,
                expression=models.Func("body", function="products_in"),
                output_field=django.contrib.postgres.fields.ArrayField(
                    base_field=models.CharField(max_length=400), size=None
                ),
            ),
        ),
        migrations.AddIndex(
            model_name="post",
            index=django.contrib.postgres.indexes.GinIndex(
                fastupdate=False, fields=["products"], name="post_by_product"
            ),
        ),
    ]
