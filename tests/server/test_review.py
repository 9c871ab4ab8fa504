"""Two people at one held post: the second is told, and nothing is changed."""

from glyptarch_server.posts.models import Post

from tests.server.test_api import ApiCase


class TwoAtOnce(ApiCase):
    def move(self, user: object, **body: object) -> tuple[int, str]:
        answer = self.call(user, "POST", f"/blogs/meadow/posts/{self.post.pk}/state", body)
        return answer.status_code, answer.json().get("detail", "")

    def test_the_second_is_told_who_has_decided(self) -> None:
        Post.objects.filter(pk=self.post.pk).update(state="held")
        self.assertEqual(self.move(self.editor, state="published", seen="held")[0], 200)
        status, told = self.move(self.reviewer, state="refused", seen="held")
        self.assertEqual(status, 409)
        self.assertIn("edda has decided about", told.lower())
        self.assertIn("it is published now", told)
        self.assertEqual(Post.objects.get(pk=self.post.pk).state, "published")

    def test_the_same_decision_is_told_as_well(self) -> None:
        Post.objects.filter(pk=self.post.pk).update(state="held")
        self.move(self.editor, state="published", seen="held")
        self.assertEqual(self.move(self.reviewer, state="published", seen="held")[0], 409)

    def test_programs_that_know_no_state_move_as_before(self) -> None:
        Post.objects.filter(pk=self.post.pk).update(state="held")
        self.assertEqual(self.move(self.editor, state="published")[0], 200)
        self.assertEqual(self.move(self.editor, state="published")[0], 200)
