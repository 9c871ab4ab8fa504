"""Set-up steps in parallel, each after the steps it depends on."""

from collections.abc import Callable, Iterable
from concurrent.futures import FIRST_EXCEPTION, Future, ThreadPoolExecutor, wait

from glyptarch_launcher.say import end_commands

__all__ = ["Step", "side_by_side"]


class Step:
    """Something to do once, after other steps."""

    def __init__(self, work: Callable[[], object], *, after: Iterable["Step"] = ()) -> None:
        self.work = work
        self.after = tuple(after)


def side_by_side(*steps: Step) -> None:
    """Run all steps, each after those it depends on.

    Raises the GiveUpError of the step that failed first. Running steps are ended, later ones not started; a repeated
    call continues after the finished steps.
    """
    futures: dict[Step, Future[None]] = {}

    def run(step: Step) -> None:
        for needed in step.after:
            futures[needed].result()
        step.work()

    # A waiting step blocks a thread, so there is one per step.
    with ThreadPoolExecutor(len(steps)) as pool:
        for step in steps:
            futures[step] = pool.submit(run, step)
        try:
            done, _ = wait(futures.values(), return_when=FIRST_EXCEPTION)
            for future in done:
                future.result()
        except BaseException:
            end_commands()
            raise
