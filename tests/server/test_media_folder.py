"""All processes share one media folder, and a process with another does not start."""

import tempfile
from pathlib import Path

from django.test import TestCase, override_settings
from glyptarch_server.media.files import check_folder, folder_fault
from glyptarch_server.media.models import Store

from tests.server.fixtures import make_blog, make_picture

MARK = ".glyptarch-media"


class Folder(TestCase):
    def setUp(self) -> None:
        self.ours, self.other = (Path(self.enterContext(tempfile.TemporaryDirectory())) for _ in range(2))

    def fault(self, folder: Path) -> str:
        with override_settings(MEDIA_ROOT=folder):
            return folder_fault()

    def kept(self, *, there: bool) -> None:
        picture = make_picture(make_blog(), "ab" * 32)
        if there:
            path = self.ours / f"pictures/{picture.blog_id}/ab/{picture.hash}/640.jpg"
            path.parent.mkdir(parents=True)
            path.write_bytes(b"jpg")

    def test_the_first_process_marks_it_and_the_others_find_the_mark(self) -> None:
        self.assertEqual([self.fault(self.ours), self.fault(self.ours)], ["", ""])
        self.assertEqual((self.ours / MARK).read_text(), Store.objects.get().mark)

    def test_another_folder_is_refused_once_something_is_kept(self) -> None:
        self.fault(self.ours)
        self.assertEqual(self.fault(self.other), "", "nothing is kept yet")
        self.kept(there=True)
        (self.other / MARK).unlink()
        self.assertIn(f"{self.other} is not the folder", self.fault(self.other))
        self.assertFalse((self.other / MARK).exists())
        self.assertEqual(self.fault(self.ours), "")

    def test_the_folder_of_another_installation_is_refused(self) -> None:
        self.fault(self.ours)
        (self.other / MARK).write_text("of another")
        self.assertIn("is not the folder", self.fault(self.other))

    def test_an_installation_of_old_marks_the_folder_in_which_its_files_lie(self) -> None:
        self.kept(there=True)
        self.assertIn("is not the folder", self.fault(self.other))
        Store.objects.all().delete()
        self.assertEqual(self.fault(self.ours), "")

    @override_settings(PRODUCTION=True)
    def test_a_process_with_another_folder_ends_on_a_server(self) -> None:
        self.fault(self.ours)
        self.kept(there=True)
        with override_settings(MEDIA_ROOT=self.other), self.assertRaises(SystemExit) as ended:
            check_folder()
        self.assertIn("GLYPTARCH_MEDIA", str(ended.exception.code))
