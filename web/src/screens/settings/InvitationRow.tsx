import { keys } from "@/api/keys";
import { type Invitation, takeBackInvitation } from "@/api/people";
import { useChange } from "@/api/useChange";
import { moment } from "@/lib/format";
import { roleName } from "@/lib/roles";
import { Button } from "@/ui/Button";

export function InvitationRow({ blog, invitation }: { blog: string; invitation: Invitation }) {
  const ending = useChange(() => takeBackInvitation(blog, invitation.id), { refresh: [keys.people(blog)] });
  const ended = new Date(invitation.ends_at) < new Date();
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_170px_120px_110px] items-center gap-4 border-t border-line2 px-5 py-2.5 first:border-0">
      <span className="truncate font-semibold">{invitation.email}</span>
      <span className={ended ? "text-xs text-madder" : "text-xs text-ink3"}>
        {ended ? "has ended" : `until ${moment(invitation.ends_at)}`}
        {invitation.by && <span className="block text-ink3">by {invitation.by}</span>}
      </span>
      <span>{roleName(invitation.role)}</span>
      <span className="text-right">
        <Button small busy={ending.isPending} onClick={() => ending.mutate()}>
          Take back
        </Button>
      </span>
    </li>
  );
}
