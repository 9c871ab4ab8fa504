import { useNavigate } from "react-router";
import { keys } from "@/api/keys";
import { changeRole, type Member, type Role, removeMember } from "@/api/people";
import { useChange } from "@/api/useChange";
import { moment } from "@/lib/format";
import { ROLES, roleName } from "@/lib/roles";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { useTell } from "@/ui/Toasts";
import { WordSelect } from "@/ui/WordSelect";

interface PersonRowProps {
  blog: string;
  member: Member;
  /** Whether the viewer owns the blog. */
  owner: boolean;
}

export function PersonRow({ blog, member, owner }: PersonRowProps) {
  const tell = useTell();
  const navigate = useNavigate();
  const refresh = [keys.people(blog), ...(member.you ? [keys.blogs()] : [])];
  const changing = useChange((role: Role) => changeRole(blog, member.id, role), {
    refresh,
    onDone: (next) => tell(`${next.name} is ${roleName(next.role).toLowerCase()} now.`),
  });
  const removing = useChange(() => removeMember(blog, member.id), {
    refresh,
    onDone: () => (member.you ? navigate("/") : tell(`${member.name} does not work on the blog any more.`)),
  });
  const error = changing.error ?? removing.error;
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_170px_120px_110px] items-center gap-4 border-t border-line2 px-5 py-2.5 first:border-0">
      <div className="min-w-0">
        <p className="font-semibold">
          {member.name} {member.you && <span className="font-normal text-ink3">(you)</span>}
        </p>
        <p className="truncate text-[11.5px] text-ink3">
          {member.user_name}
          {member.email && ` · ${member.email}`}
        </p>
        {error && (
          <p role="alert" className="mt-1 font-medium text-madder">
            {error.message}
          </p>
        )}
      </div>
      <span className="text-xs text-ink3">
        {member.last_seen_at ? `signed in ${moment(member.last_seen_at)}` : "has not signed in yet"}
        <span className="block">{member.second_factor ? "with a second factor" : "no second factor"}</span>
      </span>
      {owner ? (
        <WordSelect
          label={`Role of ${member.name}`}
          value={member.role}
          options={ROLES}
          onChange={(role) => changing.mutate(role as Role)}
        />
      ) : (
        <span>{roleName(member.role)}</span>
      )}
      <span className="text-right">
        {(owner || member.you) && (
          <Confirm
            trigger={
              <Button small look="danger">
                {member.you ? "Leave" : "Remove"}
              </Button>
            }
            title={member.you ? "Leave the blog?" : `Remove ${member.name} from the blog?`}
            text={
              member.you
                ? "You will not see the blog any more. An owner can invite you again."
                : "What this person has done stays. You can invite the person again."
            }
            action={member.you ? "Leave" : "Remove"}
            onConfirm={() => removing.mutate()}
          />
        )}
      </span>
    </li>
  );
}
