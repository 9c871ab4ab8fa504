import { NavLink } from "react-router";
import { keys } from "@/api/keys";
import { isEnded, stopTask, type Task } from "@/api/tasks";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { ago } from "@/lib/format";
import { taskProgress, taskState, taskTitle, timeLeft } from "@/lib/task-words";
import { Button } from "@/ui/Button";

interface TaskRowProps {
  blog: string;
  task: Task;
  onLeave: () => void;
}

/** One task: what it does, how far it is, how long it may take, and a way to stop it. */
export function TaskRow({ blog, task, onLeave }: TaskRowProps) {
  const stopping = useChange(() => stopTask(blog, task.id), { refresh: [keys.tasks(blog)] });
  const ended = isEnded(task);
  const title = taskTitle(task);
  const facts = [
    taskState(task),
    taskProgress(task),
    ended ? ago(task.ended_at ?? task.asked_at) : timeLeft(task.seconds_left),
    task.by && `by ${task.by}`,
  ].filter(Boolean);
  return (
    <li className="border-line2 border-t px-3 py-2 first:border-0">
      <div className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          {task.path ? (
            <NavLink
              to={`/desk/${blog}/${task.path}`}
              className="block truncate font-medium hover:text-verd"
              title={title}
              onClick={onLeave}
            >
              {title}
            </NavLink>
          ) : (
            <span className="block truncate font-medium">{title}</span>
          )}
          <span className="block text-ink3 text-xs">{facts.join(" · ")}</span>
          {task.failure && <span className="block text-madder text-xs">{task.failure}</span>}
        </div>
        {task.can_stop && !task.stop_asked && (
          <Button
            small
            busy={stopping.isPending}
            onClick={() => stopping.mutate()}
            aria-label={`Stop: ${title}`}
          >
            Stop
          </Button>
        )}
      </div>
      {!ended && task.done > 0 && task.total > 0 && (
        <progress
          className="mt-1.5 h-1.5 w-full accent-verd"
          aria-label={title}
          value={task.done}
          max={task.total}
        />
      )}
      <FormError error={stopping.error} />
    </li>
  );
}
