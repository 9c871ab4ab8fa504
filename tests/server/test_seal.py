"""Kept secrets and the change of their key."""

from io import StringIO
from unittest.mock import patch

from cryptography.fernet import Fernet
from django.apps import apps
from django.core.management import call_command
from django.core.management.base import CommandError
from django.test import TestCase, override_settings
from glyptarch_server.common import seal
from glyptarch_server.config.management.commands.seal_anew import SEALED
from glyptarch_server.platforms.actions import make_connection
from glyptarch_server.platforms.models import Connection
from glyptarch_server.sources.models import SourceAccess

from tests.server.fixtures import NOW, make_blog, make_source

OLD, NEW = (Fernet.generate_key().decode() for _ in range(2))


class SealedAnew(TestCase):
    def keys(self, *keys: str) -> None:
        setting = override_settings(GLYPTARCH_ENCRYPTION_KEYS=keys)
        setting.enable()
        self.addCleanup(setting.disable)
        seal._box.cache_clear()
        self.addCleanup(seal._box.cache_clear)

    def setUp(self) -> None:
        self.keys(OLD)
        blog = make_blog()
        make_connection(blog, "wire", name="W", address="https://w.example/", fields={"key": "k"}, now=NOW)
        SourceAccess.objects.create(source=make_source(blog), sealed=seal.seal("secret"))

    def test_the_old_key_can_go_afterwards(self) -> None:
        self.keys(NEW, OLD)
        out = StringIO()
        call_command("seal_anew", stdout=out)
        self.assertIn("2 secrets", out.getvalue())
        self.keys(NEW)
        self.assertEqual(seal.unseal(SourceAccess.objects.get().sealed), "secret")
        self.assertIn('"k"', seal.unseal(Connection.objects.get().sealed))

    def test_without_the_old_key_nothing_is_changed(self) -> None:
        before = SourceAccess.objects.get().sealed
        self.keys(NEW)
        with self.assertRaises(CommandError):
            call_command("seal_anew", stdout=StringIO())
        self.assertEqual(SourceAccess.objects.get().sealed, before)

    def test_every_sealed_column_is_named(self) -> None:
        named = {(app, model, field) for app, model, field in SEALED}
        found = {
            (model._meta.app_label, model.__name__, field.name)
            for model in apps.get_models()
            for field in model._meta.get_fields()
            if "sealed" in field.name or field.name == "totp_secret"
        }
        self.assertEqual(found, named)
        with patch.object(seal, "unseal", return_value=""):
            self.assertTrue(seal.seal_anew("x"))
