import django.db.models.functions.text
from django.db import migrations, models

# Of accounts with one address the one that was used last keeps it. The others are asked for theirs at the desk.
_LEAVE_IT_TO_ONE = """
UPDATE accounts_user u SET email = '' WHERE email <> '' AND EXISTS (
    SELECT 1 FROM accounts_user o WHERE lower(o.email) = lower(u.email) AND o.id <> u.id
    AND (coalesce(o.last_login, o.date_joined), -o.id) > (coalesce(u.last_login, u.date_joined), -u.id)
)
"""


class Migration(migrations.Migration):
    dependencies = [("accounts", "0003_second_factor_and_tokens")]

    operations = [
        migrations.RunSQL(_LEAVE_IT_TO_ONE, migrations.RunSQL.noop),
        migrations.AddConstraint(
            model_name="user",
            constraint=models.UniqueConstraint(
                django.db.models.functions.text.Lower("email"),
                condition=models.Q(("email", ""), _negated=True),
                name="mail_address_once",
            ),
        ),
    ]
