import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { keys } from "@/api/keys";
import type { Session } from "@/api/session";
import { returningFocus } from "@/ui/focus";
import { SignInForm } from "./SignInForm";

/** The sign-in over the page after the session has expired. */
export function SignInAgain({ person }: { person: Session }) {
  const queries = useQueryClient();

  function goOn(session: Session) {
    // Another person must not see the first one's page.
    if (session.user === person.user)
      queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== keys.session()[0] });
    else window.location.assign("/");
  }

  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          onCloseAutoFocus={returningFocus}
          className="fixed top-[18vh] left-1/2 z-50 w-[420px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-line bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="text-lg">Your session has ended</Dialog.Title>
          <Dialog.Description className="mt-1 mb-4 text-ink2">
            You were signed in as {person.user}
            {person.name !== person.user && ` (${person.name})`}. Nothing on the page is lost.
          </Dialog.Description>
          <SignInForm name={person.user ?? ""} onEntered={goOn} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
