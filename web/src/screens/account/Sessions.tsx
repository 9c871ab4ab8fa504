import { endOtherSessions } from "@/api/account";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Part } from "@/components/Part";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";

export function Sessions() {
  const tell = useTell();
  const ending = useChange(endOtherSessions, { onDone: () => tell("All other sessions have ended.") });
  return (
    <Part
      title="Sessions"
      text="Signs you out everywhere else: on a lost phone, on a computer of somebody else."
    >
      <FormError error={ending.error} />
      <Button busy={ending.isPending} onClick={() => ending.mutate()}>
        Sign out everywhere else
      </Button>
    </Part>
  );
}
