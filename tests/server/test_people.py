"""People: invitations, roles, and account settings."""

import json
import re
from datetime import timedelta
from typing import Any
from unittest.mock import patch

import pyotp
from django.contrib.auth import get_user_model
from django.db import IntegrityError, transaction
from django.test import Client, override_settings
from glyptarch_core.schedule import Schedule
from glyptarch_server import wiring
from glyptarch_server.accounts.models import ApiToken
from glyptarch_server.accounts.tokens import make_token
from glyptarch_server.blogs.models import Membership, Role
from glyptarch_server.campaigns.actions import set_schedule
from glyptarch_server.people.models import Invitation
from glyptarch_server.runs.actions import begin_due
from procrastinate.contrib.django.models import ProcrastinateJob

from tests.server.fixtures import NOW, PASSWORD, make_blog
from tests.server.test_api import ApiCase

STRONG = "seven quiet owls"
MAIL = override_settings(EMAIL_HOST="127.0.0.1", GLYPTARCH_PUBLIC_ADDRESS="https://desk.example")


def mails() -> list[dict[str, Any]]:
    return [job.args for job in ProcrastinateJob.objects.filter(task_name="send_mail").order_by("pk")]


class Invitations(ApiCase):
    def invite(self, email: str = "ida@club.example", role: str = "editor") -> str:
        answer = self.call(self.owner, "POST", "/blogs/meadow/invitations", {"email": email, "role": role})
        return str(answer.json()["link"]).rpartition("/join/")[2]

    def join(self, key: str, user: Any = None, **who: str) -> Any:  # noqa: ANN401
        return self.call(user, "POST", f"/invitations/{key}", who)

    @MAIL
    def test_the_link_is_sent_and_lets_somebody_new_in_once(self) -> None:
        key = self.invite()
        (mail,) = mails()
        self.assertEqual(mail["to"], "ida@club.example")
        self.assertIn(f"https://desk.example/join/{key}", mail["text"])
        self.assertEqual(self.call(None, "GET", f"/invitations/{key}").json()["title"], "Meadow")
        client = Client()
        body = json.dumps({"name": "ida", "password": STRONG, "full_name": "Ida"})
        answer = client.post(f"/api/invitations/{key}", body, content_type="application/json")
        self.assertEqual(answer.json()["role"], "editor")
        self.assertEqual([one["role"] for one in client.get("/api/blogs").json()], ["editor"])
        self.assertEqual(get_user_model().objects.get(username="ida").email, "ida@club.example")
        self.assertEqual(self.join(key, name="otto", password=STRONG).status_code, 404)

    def test_a_link_ends_after_a_week_and_when_it_is_taken_back(self) -> None:
        key = self.invite()
        with patch.object(wiring, "clock", return_value=lambda: NOW + timedelta(days=8)):
            self.assertEqual(self.join(key, name="ida", password=STRONG).status_code, 404)
        number = Invitation.objects.get().pk
        self.call(self.owner, "DELETE", f"/blogs/meadow/invitations/{number}")
        self.assertEqual(self.join(key, name="ida", password=STRONG).status_code, 404)
        self.assertFalse(get_user_model().objects.filter(username="ida").exists())

    def test_a_second_invitation_of_an_address_ends_the_first(self) -> None:
        first, second = self.invite(), self.invite(role="viewer")
        self.assertEqual(self.call(None, "GET", f"/invitations/{first}").status_code, 404)
        self.assertEqual(self.call(None, "GET", f"/invitations/{second}").json()["role"], "viewer")

    def test_who_is_signed_in_joins_and_keeps_a_higher_role(self) -> None:
        self.assertEqual(self.join(self.invite(role="viewer"), self.editor).json()["role"], "editor")
        self.assertEqual(self.join(self.invite(role="owner"), self.editor).json()["role"], "owner")
        self.assertEqual(self.join(self.invite(role="viewer"), self.stranger).json()["role"], "viewer")

    def test_a_taken_name_and_a_weak_password_are_refused_and_the_link_stays(self) -> None:
        key = self.invite()
        self.assertEqual(self.join(key, name="MIRA", password=STRONG).status_code, 409)
        weak = self.join(key, name="ida", password="short")
        self.assertEqual((weak.status_code, weak.json()["faults"][0]["path"]), (422, "password"))
        self.assertEqual(self.join(key, name="ida", password=STRONG).status_code, 200)

    def test_the_key_is_not_kept(self) -> None:
        key = self.invite()
        self.assertNotIn(key, str(Invitation.objects.values()[0]))
        self.assertNotIn(key, self.call(self.owner, "GET", "/blogs/meadow/people").content.decode())

    def test_an_address_that_is_none_is_named(self) -> None:
        answer = self.call(self.owner, "POST", "/blogs/meadow/invitations", {"email": "ida at club", "role": "viewer"})
        self.assertEqual(answer.json()["faults"][0]["path"], "email")


class Roles(ApiCase):
    def number(self, name: str) -> int:
        return int(Membership.objects.get(blog=self.blog, user__username=name).pk)

    def test_the_last_owner_can_neither_go_nor_step_down(self) -> None:
        path = f"/blogs/meadow/people/{self.number('mira')}"
        self.assertEqual(self.call(self.owner, "PATCH", path, {"role": "viewer"}).status_code, 409)
        self.assertEqual(self.call(self.owner, "DELETE", path).status_code, 409)
        self.call(self.owner, "PATCH", f"/blogs/meadow/people/{self.number('edda')}", {"role": "owner"})
        self.assertEqual(self.call(self.owner, "PATCH", path, {"role": "viewer"}).status_code, 200)

    def test_anybody_may_leave_and_only_an_owner_sends_others_away(self) -> None:
        vera, rolf = self.number("vera"), self.number("rolf")
        self.assertEqual(self.call(self.viewer, "DELETE", f"/blogs/meadow/people/{rolf}").status_code, 403)
        self.assertEqual(self.call(self.viewer, "DELETE", f"/blogs/meadow/people/{vera}").status_code, 204)
        self.assertEqual(self.call(self.viewer, "GET", "/blogs/meadow").status_code, 404)

    def test_mail_addresses_and_invitations_are_shown_to_owners_alone(self) -> None:
        get_user_model().objects.filter(username="edda").update(email="edda@club.example")
        self.call(self.owner, "POST", "/blogs/meadow/invitations", {"email": "ida@club.example", "role": "viewer"})
        seen = self.call(self.viewer, "GET", "/blogs/meadow/people").content.decode()
        self.assertNotIn("@club.example", seen)
        self.assertEqual(self.call(self.owner, "GET", "/blogs/meadow/people").content.decode().count("@club"), 2)


class Account(ApiCase):
    def sign_in(self, client: Client | None = None, **more: str) -> Any:  # noqa: ANN401
        body = json.dumps({"name": "mira", "password": PASSWORD, **more})
        return (client or Client()).post("/api/session", body, content_type="application/json")

    def switch_on(self, user: Any = None) -> tuple[str, list[str]]:  # noqa: ANN401
        user = user or self.owner
        secret = self.call(user, "POST", "/account/second-factor").json()["secret"]
        code = pyotp.TOTP(secret).at(NOW)
        answer = self.call(
            user, "PUT", "/account/second-factor", {"secret": secret, "code": code, "password": PASSWORD}
        )
        return secret, answer.json()["codes"]

    def later(self, minutes: int) -> Any:  # noqa: ANN401
        return patch.object(wiring, "clock", return_value=lambda: NOW + timedelta(minutes=minutes))

    def test_a_second_factor_is_asked_for_and_each_code_is_taken_once(self) -> None:
        secret, _ = self.switch_on()
        asked = self.sign_in()
        self.assertEqual((asked.status_code, asked.json()["faults"][0]["path"]), (422, "code"))
        with self.later(2):
            code = pyotp.TOTP(secret).at(NOW + timedelta(minutes=2))
            self.assertEqual(self.sign_in(code=code).status_code, 200)
            self.assertEqual(self.sign_in(code=code).status_code, 422)
            self.assertEqual(self.sign_in(code="000000").status_code, 422)

    def test_the_code_that_confirmed_it_signs_nobody_in(self) -> None:
        secret, _ = self.switch_on()
        self.assertEqual(self.sign_in(code=pyotp.TOTP(secret).at(NOW)).status_code, 422)

    def test_a_recovery_code_stands_in_once(self) -> None:
        _, codes = self.switch_on()
        self.assertEqual(len(set(codes)), 8)
        self.assertEqual(self.sign_in(code=codes[0].upper()).status_code, 200)
        self.assertEqual(self.sign_in(code=codes[0]).status_code, 422)
        self.assertEqual(self.call(self.owner, "GET", "/account").json()["recovery_codes"], 7)

    def test_a_second_factor_is_switched_off_with_the_password(self) -> None:
        self.switch_on()
        path = "/account/second-factor/off"
        self.assertEqual(self.call(self.owner, "POST", path, {"password": "no"}).status_code, 422)
        self.call(self.owner, "POST", path, {"password": PASSWORD})
        self.assertEqual(self.sign_in().status_code, 200)

    def test_the_secret_is_encrypted_and_never_given_again(self) -> None:
        secret, codes = self.switch_on()
        self.owner.refresh_from_db()
        self.assertNotIn(secret, self.owner.totp_secret)
        told = self.call(self.owner, "GET", "/account").content.decode()
        self.assertFalse([one for one in (secret, *codes) if one in told])

    def test_a_wrong_code_switches_nothing_on(self) -> None:
        secret = self.call(self.owner, "POST", "/account/second-factor").json()["secret"]
        for body in ({"secret": secret, "code": "12345"}, {"secret": "§", "code": "123456"}):
            body |= {"password": PASSWORD}
            self.assertEqual(self.call(self.owner, "PUT", "/account/second-factor", body).status_code, 422)
        self.assertEqual(self.sign_in().status_code, 200)

    def test_nothing_about_the_sign_in_is_changed_without_the_password(self) -> None:
        secret = self.call(self.owner, "POST", "/account/second-factor").json()["secret"]
        body = {"secret": secret, "code": pyotp.TOTP(secret).at(NOW), "password": "guessed"}
        self.assertEqual(self.call(self.owner, "PUT", "/account/second-factor", body).status_code, 422)
        account = {"full_name": "Mira", "email": "new@club.example"}
        for password, status in (("", 422), ("guessed", 422), (PASSWORD, 200)):
            answer = self.call(self.owner, "PUT", "/account", {**account, "password": password})
            self.assertEqual(answer.status_code, status, answer.content)
        self.assertEqual(self.call(self.owner, "PUT", "/account", account).status_code, 200, "the address stays")

    def test_two_people_cannot_share_an_address(self) -> None:
        get_user_model().objects.filter(username="edda").update(email="edda@club.example")
        account = {"full_name": "Mira", "email": "EDDA@club.example", "password": PASSWORD}
        answer = self.call(self.owner, "PUT", "/account", account)
        self.assertEqual((answer.status_code, answer.json()["faults"][0]["path"]), (409, "email"))
        with self.assertRaises(IntegrityError), transaction.atomic():
            get_user_model().objects.filter(username="mira").update(email="Edda@club.example")

    def test_tokens_end_with_a_new_password_and_with_all_sessions(self) -> None:
        def token() -> str:
            return str(
                self.call(self.owner, "POST", "/account/tokens", {"name": "n", "role": "viewer", "days": 9}).json()[
                    "key"
                ]
            )

        def works(key: str) -> bool:
            return Client().get("/api/blogs", headers={"Authorization": f"Bearer {key}"}).status_code == 200

        for method, path, body in (
            ("DELETE", "/account/other-sessions", None),
            ("PUT", "/account/password", {"old": PASSWORD, "password": STRONG}),
        ):
            key = token()
            self.assertTrue(works(key))
            self.assertEqual(self.call(self.owner, method, path, body).status_code, 200)
            self.assertFalse(works(key), path)
            self.owner.refresh_from_db()

    @MAIL
    def test_the_owner_of_an_account_is_told_of_each_such_change(self) -> None:
        get_user_model().objects.filter(username="mira").update(email="mira@club.example")
        self.owner.refresh_from_db()
        self.switch_on()
        self.call(self.owner, "POST", "/account/second-factor/off", {"password": PASSWORD})
        self.call(self.owner, "POST", "/account/tokens", {"name": "Nightly", "role": "viewer", "days": 9})
        self.call(self.owner, "DELETE", "/account/other-sessions")
        self.owner.refresh_from_db()
        self.call(self.owner, "PUT", "/account/password", {"old": PASSWORD, "password": STRONG})
        self.owner.refresh_from_db()
        self.call(self.owner, "PUT", "/account", {"full_name": "M", "email": "m@club.example", "password": STRONG})
        texts = [mail["text"] for mail in mails()]
        for text, part in zip(
            texts,
            (
                "second factor is asked for",
                "switched off",
                "“Nightly”",
                "sessions",
                "password was changed",
                "m@club.example",
            ),
            strict=True,
        ):
            self.assertIn(part, text)
        self.assertEqual({mail["to"] for mail in mails()}, {"mira@club.example"})

    def test_other_sessions_end_and_this_one_stays(self) -> None:
        here, there = Client(), Client()
        for client in (here, there):
            self.sign_in(client)
        self.assertEqual(here.delete("/api/account/other-sessions").status_code, 200)
        self.assertEqual([one.get("/api/blogs").status_code for one in (here, there)], [200, 401])

    def test_another_password_ends_other_sessions(self) -> None:
        here, there = Client(), Client()
        for client in (here, there):
            self.sign_in(client)
        for old, expected in (("wrong", 422), (PASSWORD, 200)):
            body = json.dumps({"old": old, "password": STRONG})
            answer = here.put("/api/account/password", body, content_type="application/json")
            self.assertEqual(answer.status_code, expected)
        self.assertEqual([one.get("/api/blogs").status_code for one in (here, there)], [200, 401])

    @MAIL
    def test_a_forgotten_password_is_set_anew_by_a_link_that_works_once(self) -> None:
        get_user_model().objects.filter(username="mira").update(email="mira@club.example")
        known, unknown = (
            self.call(None, "POST", "/password-resets", {"email": email})
            for email in ("Mira@club.example", "nobody@club.example")
        )
        self.assertEqual((known.status_code, known.content), (unknown.status_code, unknown.content))
        (mail,) = mails()
        self.assertEqual(Client().get(re.findall(r"https://desk\.example(/\S+)", mail["text"])[0]).status_code, 200)
        person, token = re.findall(r"https://desk\.example/reset/([^/\s]+)/(\S+)", mail["text"])[0]
        body = {"person": person, "token": token, "password": STRONG}
        self.assertEqual(self.call(None, "PUT", "/password-resets", body).status_code, 200)
        self.assertEqual(self.call(None, "PUT", "/password-resets", body).status_code, 422)
        self.assertEqual(self.sign_in(password=STRONG).status_code, 200)

    @MAIL
    def test_resets_are_asked_for_five_times_an_hour(self) -> None:
        answers = [
            self.call(None, "POST", "/password-resets", {"email": "x@club.example"}).status_code for _ in range(6)
        ]
        self.assertEqual(answers, [204] * 5 + [429])


class Tokens(ApiCase):
    def with_key(self, key: str, method: str, path: str, body: Any = None) -> Any:  # noqa: ANN401
        text = json.dumps(body) if body is not None else ""
        headers = {"Authorization": f"Bearer {key}"}
        return Client(enforce_csrf_checks=True).generic(
            method, f"/api{path}", text, "application/json", headers=headers
        )

    def make(self, role: str, days: int = 30) -> str:
        body = {"name": "Nightly", "role": role, "days": days}
        return str(self.call(self.owner, "POST", "/account/tokens", body).json()["key"])

    def test_a_token_does_no_more_than_its_role(self) -> None:
        key = self.make("viewer")
        self.assertEqual(self.with_key(key, "GET", "/blogs/meadow/posts").status_code, 200)
        self.assertEqual(self.with_key(key, "POST", "/blogs/meadow/campaigns/sky/runs").status_code, 403)
        self.assertEqual(
            self.with_key(self.make("editor"), "POST", "/blogs/meadow/campaigns/sky/runs").status_code, 200
        )

    def test_a_token_does_no_more_than_its_person(self) -> None:
        _, key = make_token(self.viewer, "All", "owner", days=1, now=NOW)
        self.assertEqual(self.with_key(key, "POST", "/blogs/meadow/campaigns/sky/runs").status_code, 403)

    def test_the_token_of_a_deactivated_person_is_refused(self) -> None:
        key = self.make("viewer")
        self.assertEqual(self.with_key(key, "GET", "/blogs").status_code, 200)
        self.owner.is_active = False
        self.owner.save()
        self.assertEqual(self.with_key(key, "GET", "/blogs").status_code, 401)

    def test_a_token_cannot_change_the_sign_in_of_its_person_nor_make_others(self) -> None:
        key = self.make("owner")
        for method, path in (("GET", "/account"), ("GET", "/account/tokens"), ("DELETE", "/account/other-sessions")):
            self.assertIn(self.with_key(key, method, path).status_code, {401, 403}, path)

    def test_a_token_ends_on_its_day_and_when_it_is_ended(self) -> None:
        key = self.make("viewer", days=1)
        with patch.object(wiring, "clock", return_value=lambda: NOW + timedelta(days=1, seconds=1)):
            self.assertEqual(self.with_key(key, "GET", "/blogs").status_code, 401)
        self.call(self.owner, "DELETE", f"/account/tokens/{ApiToken.objects.get().pk}")
        self.assertEqual(self.with_key(key, "GET", "/blogs").status_code, 401)

    def test_nobody_ends_the_token_of_another(self) -> None:
        self.make("viewer")
        path = f"/account/tokens/{ApiToken.objects.get().pk}"
        self.assertEqual(self.call(self.stranger, "DELETE", path).status_code, 404)

    def test_the_key_is_not_kept_and_its_use_is_noted(self) -> None:
        key = self.make("viewer")
        self.assertNotIn(key, str(ApiToken.objects.values()[0]))
        self.with_key(key, "GET", "/blogs")
        listed = self.call(self.owner, "GET", "/account/tokens").json()[0]
        self.assertEqual((listed["name"], listed["used_at"]), ("Nightly", "2026-11-24T12:00:00Z"))

    def test_what_a_token_did_names_it_in_the_audit_list(self) -> None:
        self.with_key(self.make("editor"), "PATCH", "/blogs/meadow/campaigns/sky", {"name": "Night sky"})
        entry = self.call(self.owner, "GET", "/blogs/meadow/audit").json()["rows"][0]
        self.assertEqual((entry["action"], entry["name"]), ("campaign.renamed", "Mira (token “Nightly”)"))


class Blogs(ApiCase):
    def test_an_owner_makes_another_blog_and_others_do_not(self) -> None:
        body = {"slug": "club-page", "title": "Club page", "language": "de", "time_zone": "Europe/Berlin"}
        self.assertEqual(self.call(self.editor, "POST", "/blogs", body).status_code, 403)
        self.assertEqual(self.call(self.owner, "POST", "/blogs", body).json()["role"], "owner")
        self.assertEqual(self.call(self.owner, "POST", "/blogs", body).status_code, 409)
        blog = self.call(self.owner, "GET", "/blogs/club-page").json()
        self.assertEqual((blog["language"], blog["time_zone"]), ("de", "Europe/Berlin"))

    def test_what_does_not_hold_is_named(self) -> None:
        good = {"slug": "club", "title": "Club", "language": "en", "time_zone": "UTC"}
        for field, value in (("slug", "Club Page"), ("language", "klingon"), ("time_zone", "Mars")):
            answer = self.call(self.owner, "POST", "/blogs", {**good, field: value})
            self.assertEqual(answer.status_code, 422, field)

    def test_a_removed_blog_is_gone_for_everybody_and_can_be_brought_back(self) -> None:
        make_blog("other", self.owner)
        self.call(self.owner, "DELETE", "/blogs/meadow")
        self.assertEqual(Client().get("/blog/meadow/").status_code, 404)
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow").status_code, 404)
        self.assertEqual([one["slug"] for one in self.call(self.owner, "GET", "/blogs").json()], ["other"])
        self.assertEqual(self.call(self.owner, "GET", "/removed-blogs").json()[0]["slug"], "meadow")
        self.assertEqual(self.call(self.editor, "DELETE", "/removed-blogs/meadow").status_code, 404)
        self.assertEqual(self.call(self.owner, "DELETE", "/removed-blogs/meadow").status_code, 200)
        self.assertEqual(Client().get("/blog/meadow/").status_code, 200)

    def test_campaigns_of_a_removed_blog_rest_and_go_on_when_it_is_back(self) -> None:
        hourly = Schedule.model_validate({"when": {"kind": "every", "minutes": 60}})
        set_schedule(self.campaign, hourly, paused=False, now=NOW)
        self.call(self.owner, "DELETE", "/blogs/meadow")
        self.assertEqual(begin_due(now=NOW + timedelta(hours=5)), 0)
        self.call(self.owner, "DELETE", "/removed-blogs/meadow")
        self.assertEqual(begin_due(now=NOW + timedelta(hours=5)), 1)

    def test_a_blog_is_renamed_and_its_address_stays(self) -> None:
        self.call(self.owner, "PATCH", "/blogs/meadow", {"title": "Hill", "tagline": "At night", "language": "pt-BR"})
        blog = self.call(self.owner, "GET", "/blogs/meadow").json()
        self.assertEqual((blog["title"], blog["tagline"], blog["language"]), ("Hill", "At night", "pt-BR"))
        self.assertEqual(Role(self.call(self.owner, "GET", "/blogs").json()[0]["role"]), Role.OWNER)
