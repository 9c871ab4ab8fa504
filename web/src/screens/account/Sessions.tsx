import { endOtherSessions } from "@/api/account";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";

export function Sessions() {
  const tell = useTell();
  const ending = useChange(endOtherSessions, {
    refresh: [keys.tokens()],
    onDone: () => tell("All other sessions and API tokens have ended."),
  });
  return (
    <Part
      title="Sessions"
      text="Signs you out everywhere else: on a lost phone, on a computer of somebody else. API tokens end too."
    >
      <FormError error={ending.error} />
      <Button busy={ending.isPending} onClick={() => ending.mutate()}>
        Sign out everywhere else
      </Button>
    </Part>
  );
}
