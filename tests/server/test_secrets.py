"""Keys of an installation: created for a demo, required and strong in production."""

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from unittest.mock import patch

from cryptography.fernet import Fernet
from django.test import SimpleTestCase, override_settings
from glyptarch_server.common import seal as sealing
from glyptarch_server.common.problems import Conflict
from glyptarch_server.common.seal import seal, unseal
from glyptarch_server.config.secrets import SecretError, encryption_keys, secret_key

STRONG = "q7Jt-2Xw9LmZp4RkVb6NcHs8YdFgTaEu"


class Keys(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.var = Path(folder.name) / "var"

    def given(self, **values: str) -> None:
        names = ("GLYPTARCH_SECRET_KEY", "GLYPTARCH_ENCRYPTION_KEYS")
        without = {name: value for name, value in os.environ.items() if name not in names}
        replaced = patch.dict(os.environ, {**without, **values}, clear=True)
        replaced.start()
        self.addCleanup(replaced.stop)

    def test_one_is_made_once_and_is_nobody_elses_to_read(self) -> None:
        self.given()
        makers: tuple[tuple[Callable[..., object], str], ...] = (
            (secret_key, "secret-key"),
            (encryption_keys, "encryption-key"),
        )
        for make, name in makers:
            made = make(self.var, required=False)
            self.assertEqual(make(self.var, required=False), made)
            self.assertNotEqual(make(self.var / "other", required=False), made)
            self.assertEqual((self.var / name).stat().st_mode & 0o777, 0o600)

    def test_one_that_is_given_goes_before(self) -> None:
        self.given(GLYPTARCH_SECRET_KEY=STRONG)
        self.assertEqual(secret_key(self.var, required=True), STRONG)
        self.assertFalse(self.var.exists())

    def test_a_missing_or_weak_secret_is_refused_with_the_remedy(self) -> None:
        for value in ("", "short", "a" * 40, "abcabcabcabcabcabcabcabcabcabcabcabc"):
            self.given(GLYPTARCH_SECRET_KEY=value)
            with self.subTest(value), self.assertRaisesMessage(SecretError, "openssl rand"):
                secret_key(self.var, required=True)

    def test_encryption_keys_must_be_given_and_be_keys(self) -> None:
        for value, said in (("", "not set"), ("short", "Key 1"), (f"{Fernet.generate_key().decode()},x", "Key 2")):
            self.given(GLYPTARCH_ENCRYPTION_KEYS=value)
            with self.subTest(value), self.assertRaisesMessage(SecretError, said):
                encryption_keys(self.var, required=True)


class Sealed(SimpleTestCase):
    def setUp(self) -> None:
        sealing._box.cache_clear()
        self.addCleanup(sealing._box.cache_clear)

    def with_keys(self, *keys: str) -> None:
        sealing._box.cache_clear()
        replaced = override_settings(GLYPTARCH_ENCRYPTION_KEYS=keys)
        replaced.enable()
        self.addCleanup(replaced.disable)

    def test_a_newer_key_reads_what_an_older_one_wrote(self) -> None:
        old, new = (Fernet.generate_key().decode() for _ in range(2))
        self.with_keys(old)
        sealed = seal("a club's password")
        self.assertNotIn("club", sealed)
        self.with_keys(new, old)
        self.assertEqual(unseal(sealed), "a club's password")

    def test_a_missing_key_is_named(self) -> None:
        self.with_keys(Fernet.generate_key().decode())
        sealed = seal("x")
        self.with_keys(Fernet.generate_key().decode())
        with self.assertRaisesMessage(Conflict, "GLYPTARCH_ENCRYPTION_KEYS"):
            unseal(sealed)
