"""The tests affected by a change."""

from django.test import SimpleTestCase

from tests.running.changed import module_of, touched


class Touched(SimpleTestCase):
    def test_a_test_is_touched_by_what_it_imports_directly_or_through_others(self) -> None:
        names = touched(["core/glyptarch_core/schedule.py"])
        self.assertIn("tests.core.test_schedule", names)
        self.assertIn("tests.server.test_schedules", names)
        self.assertNotIn("tests.launcher.test_ports", names)

    def test_a_changed_test_is_touched_and_a_text_touches_none(self) -> None:
        self.assertEqual(touched(["tests/launcher/test_ports.py", "README.md"]), ["tests.launcher.test_ports"])

    def test_a_file_is_known_by_its_module(self) -> None:
        for path, module in (
            ("server/glyptarch_server/runs/__init__.py", "glyptarch_server.runs"),
            ("tests/core/test_sift.py", "tests.core.test_sift"),
            ("web/src/main.tsx", ""),
        ):
            self.assertEqual(module_of(path), module)
