import { Popover } from "radix-ui";
import { useState } from "react";
import { isEnded, type Task } from "@/api/tasks";
import { count } from "@/lib/format";
import { TaskRow } from "./TaskRow";
import { useTasks } from "./useTasks";

const LATELY = 5;
const DOTS = { running: "animate-pulse bg-[#4fc3a6]", failed: "bg-[#e08a7c]", quiet: "bg-[#b7c7c1]" };

/** Those at work first, then those that wait, in the order in which they were asked for. */
function inOrder(tasks: readonly Task[]): Task[] {
  return tasks.toSorted(
    (one, other) => Number(other.state === "working") - Number(one.state === "working") || one.id - other.id,
  );
}

/** What goes on in the blog, in the bar: shown while something runs, or when something failed in the last hour. */
export function UnderWay({ blog }: { blog: string }) {
  const [open, setOpen] = useState(false);
  const tasks = useTasks(blog);
  const running = inOrder(tasks.filter((task) => !isEnded(task)));
  const ended = tasks.filter(isEnded);
  const failed = ended.filter((task) => task.state === "failed").length;
  if (running.length === 0 && failed === 0 && !open) return null;
  const state = running.length > 0 ? "running" : failed > 0 ? "failed" : "quiet";
  const words = {
    running: `${count(running.length)} under way`,
    failed: `${failed} failed`,
    quiet: "All done",
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button type="button" className="flex items-center gap-1.5 text-[#b7c7c1] text-xs hover:text-white">
          <span className={`size-[7px] rounded-full ${DOTS[state]}`} />
          {words[state]}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          collisionPadding={12}
          aria-label="What goes on"
          className="z-50 max-h-[70vh] w-[26rem] max-w-[calc(100vw-24px)] overflow-auto rounded-lg border border-line bg-sheet text-ink shadow-lg"
        >
          {running.length === 0 && <p className="px-3 py-2 text-ink2">Nothing is under way.</p>}
          <ul>
            {running.map((task) => (
              <TaskRow key={task.id} blog={blog} task={task} onLeave={() => setOpen(false)} />
            ))}
          </ul>
          {ended.length > 0 && (
            <>
              <h2 className="border-line border-t bg-chalk px-3 py-1 font-semibold text-ink3 text-xs">
                Ended in the last hour
              </h2>
              <ul>
                {ended.slice(0, LATELY).map((task) => (
                  <TaskRow key={task.id} blog={blog} task={task} onLeave={() => setOpen(false)} />
                ))}
              </ul>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
