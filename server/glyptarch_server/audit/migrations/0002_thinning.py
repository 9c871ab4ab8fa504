from django.db import migrations

# What is written stays for a year at least; a transaction that says it is thinning may remove what is older.
_THINNED = """
CREATE OR REPLACE FUNCTION audit_entry_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF TG_OP = 'DELETE' AND current_setting('glyptarch.thinning', true) = 'on' AND OLD.at < now() - interval '365 days' THEN
        RETURN OLD;
    END IF;
    RAISE EXCEPTION 'audit entries are never changed, and not removed while they are young';
END $$;
"""
_NEVER = """
CREATE OR REPLACE FUNCTION audit_entry_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'audit entries are never changed or removed';
END $$;
"""


class Migration(migrations.Migration):
    dependencies = [("audit", "0001_initial")]

    operations = [migrations.RunSQL(_THINNED, _NEVER)]
