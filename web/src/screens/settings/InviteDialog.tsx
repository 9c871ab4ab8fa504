import { useState } from "react";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { invite, type Role } from "@/api/people";
import { useChange } from "@/api/useChange";
import { CopyText } from "@/components/CopyText";
import { ROLES } from "@/lib/roles";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

interface InviteDialogProps {
  blog: string;
  /** Whether the link is mailed; otherwise it must be passed on. */
  byMail: boolean;
  onClose: () => void;
}

export function InviteDialog({ blog, byMail, onClose }: InviteDialogProps) {
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("editor");
  const inviting = useChange(() => invite(blog, { email, role }), { refresh: [keys.people(blog)] });
  if (inviting.data)
    return (
      <Dialog
        open
        onOpenChange={onClose}
        title={`${inviting.data.invitation.email} is invited`}
        description={
          byMail
            ? "The link is on its way by mail. You can hand it on yourself as well; it lets one person in, within a week."
            : "Mail is not set up here: hand this link on yourself. It lets one person in, within a week."
        }
      >
        <CopyText label="Link of the invitation" text={inviting.data.link} />
        <div className="mt-4 flex justify-end">
          <Button look="primary" onClick={onClose}>
            Done
          </Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog open onOpenChange={onClose} title="Invite somebody">
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          inviting.mutate();
        }}
      >
        <Field label="Mail address" error={faultAt(inviting.error, "email")}>
          <input
            type="email"
            className={inputLook}
            value={email}
            required
            onChange={(event) => setEmail(event.target.value)}
          />
        </Field>
        <fieldset>
          <legend className="mb-1 font-semibold">Role</legend>
          {ROLES.map((one) => (
            <label key={one.value} className="flex items-baseline gap-2 py-0.5">
              <input
                type="radio"
                name="role"
                checked={role === one.value}
                onChange={() => setRole(one.value)}
              />
              <span>
                <span className="font-medium">{one.label}</span> <span className="text-ink3">{one.may}</span>
              </span>
            </label>
          ))}
        </fieldset>
        {inviting.error && !faultAt(inviting.error, "email") && (
          <p role="alert" className="font-medium text-madder">
            {inviting.error.message}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={inviting.isPending}>
            Invite
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
