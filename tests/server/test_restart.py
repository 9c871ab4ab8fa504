"""Two real workers and a web server, while their database ends connections and is restarted."""

import sys
from concurrent.futures import ThreadPoolExecutor

from glyptarch_launcher.ports import free_port
from glyptarch_server.common.lanes import LANES

from tests.processes import MANAGE, alive, until
from tests.server.own_world import ITEMS, UNDER_WAY, OwnWorld


class RestartedDatabase(OwnWorld):
    def test_the_run_ends_nothing_is_doubled_and_nobody_has_to_be_started_again(self) -> None:
        logs = [self.group.start(f"restart-worker-{number}", [*MANAGE, "worker"])[1] for number in (1, 2)]
        self.port = free_port()
        web = [sys.executable, "-m", "glyptarch_server.config.web_server", "--port", str(self.port)]
        self.group.start("restart-web", web)
        self.assertTrue(until(lambda: self.ask(UNDER_WAY) >= 10, seconds=60), logs[0].read_text()[-2000:])
        self.ask(
            "SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND usename = 'glyptarch'"
        )
        self.assertTrue(until(lambda: self.ask(UNDER_WAY) >= 60, seconds=60), logs[0].read_text()[-2000:])
        self.assertTrue(until(self.web_answers, seconds=20))
        self.database.stop()
        self.database.start()
        self.assertLess(self.ask(UNDER_WAY), ITEMS, "the database was not restarted in the middle")
        ended = until(lambda: self.ask("SELECT state FROM runs_run") == "done", seconds=90)
        self.assertTrue(ended, "\n".join(log.read_text()[-3000:] for log in logs))
        for count in (
            "SELECT count(*) FROM runs_decision",
            "SELECT count(DISTINCT item_id) FROM runs_decision",
            "SELECT count(*) FROM posts_post",
            "SELECT count(DISTINCT item_id) FROM posts_post",
        ):
            self.assertEqual(self.ask(count), ITEMS, count)
        self.assertEqual(alive(self.group), [True, True, True])
        with ThreadPoolExecutor(200) as many:
            self.assertTrue(all(many.map(lambda _: self.web_answers(60), range(400))), "a request failed in the rush")
        heard = "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - interval '4 seconds'"
        self.assertTrue(until(lambda: self.ask(heard) == 2 * len(LANES), seconds=20), "a worker has not come back")
        self.assertTrue(until(self.web_answers, seconds=20))
