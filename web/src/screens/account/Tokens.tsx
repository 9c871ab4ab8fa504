import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { endToken, type Token, tokensQuery } from "@/api/account";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { moment, since } from "@/lib/format";
import { roleName } from "@/lib/roles";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { TokenDialog } from "./TokenDialog";

function Row({ token }: { token: Token }) {
  const ending = useChange(() => endToken(token.id), { refresh: [keys.tokens()] });
  const ended = new Date(token.ends_at) < new Date();
  return (
    <li className="flex items-center gap-3 border-t border-line2 py-2 first:border-0">
      <div className="min-w-0 flex-1">
        <p className="truncate font-semibold">{token.name}</p>
        <p className="text-[11.5px] text-ink3">
          {roleName(token.role).toLowerCase()} at most ·{" "}
          <span className={ended ? "text-madder" : ""}>
            {ended ? "has ended" : `until ${moment(token.ends_at)}`}
          </span>{" "}
          · {token.used_at ? `used ${since(token.used_at)}` : "not used yet"}
        </p>
        <FormError error={ending.error} />
      </div>
      <Confirm
        trigger={
          <Button small look="danger">
            End
          </Button>
        }
        title={`End “${token.name}”?`}
        text="Programs that use it get no answer any more. It cannot be taken back."
        action="End the token"
        onConfirm={() => ending.mutate()}
      />
    </li>
  );
}

/** Keys by which programs act for the person. */
export function Tokens() {
  const tokens = useQuery(tokensQuery);
  const [making, setMaking] = useState(false);
  return (
    <Part
      title="API tokens"
      text={
        <>
          A program acts for you with a token, as far as its role lets it.{" "}
          <a className="text-verd underline" href="/api/openapi.json" target="_blank" rel="noreferrer">
            What the API can do
          </a>{" "}
          (OpenAPI)
        </>
      }
    >
      <FormError error={tokens.error} />
      <ul>
        {tokens.data?.map((token) => (
          <Row key={token.id} token={token} />
        ))}
      </ul>
      <Button onClick={() => setMaking(true)}>New token</Button>
      {making && <TokenDialog onClose={() => setMaking(false)} />}
    </Part>
  );
}
