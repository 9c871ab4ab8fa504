import { keys } from "@/api/keys";
import { removeService, type Service } from "@/api/services";
import { useChange } from "@/api/useChange";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Pill } from "@/ui/Pill";
import { useTell } from "@/ui/Toasts";
import { sentWords, stateOf, taskWords } from "./states";

export type Opened = "change" | "try" | "bill";

interface ServiceRowProps {
  blog: string;
  service: Service;
  campaigns: readonly string[];
  editor: boolean;
  onOpen: (what: Opened) => void;
}

/** A language service: its state, the remedy, what was sent, and who asks it. */
export function ServiceRow({ blog, service, campaigns, editor, onOpen }: ServiceRowProps) {
  const tell = useTell();
  const removing = useChange(() => removeService(blog, service.key), {
    refresh: [keys.services(blog)],
    onDone: () => tell(`“${service.name}” and its key are removed.`, { tone: "good" }),
  });
  const { label, tone } = stateOf(service);
  return (
    <li className="border-t border-line2 px-4 py-3 first:border-0">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">{service.name}</h2>
        <Pill tone={tone}>{label}</Pill>
        <span className="text-ink3">{taskWords(service)}</span>
        <span className="min-w-0 truncate font-mono text-xs text-ink3">
          {String(service.document.address)}
        </span>
        <span className="ml-auto flex gap-2">
          <Button small onClick={() => onOpen("bill")}>
            Bill
          </Button>
          {editor && (
            <>
              <Button small onClick={() => onOpen("try")}>
                Try
              </Button>
              <Button small onClick={() => onOpen("change")}>
                Change
              </Button>
              <Confirm
                trigger={
                  <Button small look="danger">
                    Remove
                  </Button>
                }
                title={`Remove “${service.name}”?`}
                text="Its key is removed for good. Texts that it has answered stay. Campaigns that ask it need another one first."
                action="Remove service"
                onConfirm={() => removing.mutate()}
              />
            </>
          )}
        </span>
      </div>
      {service.detail && <p className="mt-1 text-madder">{service.detail}</p>}
      <p className="mt-1 flex flex-wrap gap-x-3 text-xs text-ink3">
        <span>{sentWords(service)}</span>
        <span className="ml-auto">
          {campaigns.length ? `asked by ${campaigns.join(", ")}` : "no campaign asks it"}
          {!service.has_secret && " · without a key"}
        </span>
      </p>
      {removing.error && (
        <p role="alert" className="mt-1 text-madder">
          {removing.error.message}
        </p>
      )}
    </li>
  );
}
