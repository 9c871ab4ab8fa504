import { keys } from "@/api/keys";
import {
  beginSignIn,
  type Connection,
  checkConnection,
  type Platform,
  removeConnection,
} from "@/api/platforms";
import { useChange } from "@/api/useChange";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Pill } from "@/ui/Pill";
import { useTell } from "@/ui/Toasts";
import { connectionWords, stateOf, usedToday } from "./states";

interface ConnectionRowProps {
  blog: string;
  connection: Connection;
  platform: Platform | undefined;
  editor: boolean;
  onChange: () => void;
}

/** A connection: its state, the remedy, and the use of its quota. */
export function ConnectionRow({ blog, connection, platform, editor, onChange }: ConnectionRowProps) {
  const tell = useTell();
  const refresh = [keys.connections(blog)];
  const checking = useChange(() => checkConnection(blog, connection.key), {
    refresh,
    onDone: (checked) =>
      tell(checked.detail || `“${checked.name}”: ${stateOf(checked).label}.`, {
        tone: checked.state === "valid" ? "good" : "bad",
      }),
  });
  const removing = useChange(() => removeConnection(blog, connection.key), {
    refresh,
    onDone: () => tell(`“${connection.name}” and its secrets are removed.`, { tone: "good" }),
  });
  const signing = useChange(() => beginSignIn(blog, connection.key), {
    onDone: ({ address }) => window.location.assign(address),
  });
  const { label, tone } = stateOf(connection);
  const used = usedToday(connection);
  const share = connection.limit_a_day ? Math.min(100, (used / connection.limit_a_day) * 100) : 0;
  const by = connection.used
    .filter((one) => one.used > 0)
    .map((one) => `${one.who || "checks and tests"} ${one.used}`)
    .join(", ");
  const error = checking.error ?? removing.error ?? signing.error;
  return (
    <li className="border-t border-line2 px-4 py-3 first:border-0">
      <div className="flex items-center gap-3">
        <h2 className="font-semibold">{connection.name}</h2>
        <Pill tone={tone}>{label}</Pill>
        <span className="text-ink3">{platform?.name ?? connection.platform}</span>
        <span className="truncate font-mono text-xs text-ink3">{connection.address}</span>
        {editor && (
          <span className="ml-auto flex gap-2">
            {platform?.signs_in && (
              <Button
                small
                look={connection.state === "valid" ? "plain" : "primary"}
                busy={signing.isPending}
                onClick={() => signing.mutate()}
              >
                Sign in
              </Button>
            )}
            <Button small busy={checking.isPending} onClick={() => checking.mutate()}>
              Check
            </Button>
            <Button small onClick={onChange}>
              Change
            </Button>
            <Confirm
              trigger={
                <Button small look="danger">
                  Remove
                </Button>
              }
              title={`Remove “${connection.name}”?`}
              text="Its secrets are removed for good. Sources that use it have to be given another connection first."
              action="Remove connection"
              onConfirm={() => removing.mutate()}
            />
          </span>
        )}
      </div>
      {connection.detail && <p className="mt-1 text-madder">{connection.detail}</p>}
      <p className="mt-1 flex items-center gap-3 text-xs text-ink3">
        {connection.limit_a_day > 0 && (
          <span className="h-1.5 w-40 overflow-hidden rounded bg-sunk" aria-hidden>
            <span className="block h-full bg-verd" style={{ width: `${share}%` }} />
          </span>
        )}
        <span title={by}>
          {connectionWords(connection)}
          {by && ` (${by})`}
        </span>
        <span className="ml-auto whitespace-nowrap">
          {plural(connection.sources, "source")}
          {connection.checked_at && ` · checked ${moment(connection.checked_at)}`}
        </span>
      </p>
      {error && (
        <p role="alert" className="mt-1 text-madder">
          {error.message}
        </p>
      )}
    </li>
  );
}
