import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { faultAt } from "@/api/client";
import { type Session, sessionQuery, signIn } from "@/api/session";
import { useChange } from "@/api/useChange";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { ForgotDialog } from "./ForgotDialog";

interface Form {
  name: string;
  password: string;
  code: string;
}

interface SignInFormProps {
  /** The name to begin with. */
  name?: string;
  onEntered?: (session: Session) => void;
}

/** Name, password, and the code of a second factor. `onEntered` gets the person. */
export function SignInForm({ name = "", onEntered }: SignInFormProps) {
  const queries = useQueryClient();
  const form = useForm<Form>({ defaultValues: { name, password: "", code: "" } });
  const [forgot, setForgot] = useState(false);
  const [coded, setCoded] = useState(false);
  const entering = useChange(({ name, password, code }: Form) => signIn(name, password, code), {
    onFault: (fault) => setCoded((before) => before || faultAt(fault, "code") !== undefined),
    onDone: (session) => {
      queries.setQueryData(sessionQuery.queryKey, session);
      onEntered?.(session);
    },
  });
  const { errors } = form.formState;
  return (
    <form className="flex flex-col gap-4" onSubmit={form.handleSubmit((values) => entering.mutate(values))}>
      <Field label="Name" error={errors.name?.message}>
        <input
          {...form.register("name", { required: "Type your name." })}
          autoComplete="username"
          className={inputLook}
          aria-invalid={Boolean(errors.name)}
        />
      </Field>
      <Field label="Password" error={errors.password?.message}>
        <input
          {...form.register("password", { required: "Type your password." })}
          type="password"
          autoComplete="current-password"
          className={inputLook}
          aria-invalid={Boolean(errors.password)}
        />
      </Field>
      {coded && (
        <Field
          label="Code"
          hint="Your app shows it. A recovery code stands in for it once."
          error={form.watch("code") ? faultAt(entering.error, "code") : undefined}
        >
          <input
            {...form.register("code")}
            // biome-ignore lint/a11y/noAutofocus: it has just been asked for
            autoFocus
            inputMode="text"
            autoComplete="one-time-code"
            className={inputLook}
          />
        </Field>
      )}
      {entering.error && !faultAt(entering.error, "code") && (
        <p role="alert" className="font-medium text-madder">
          {entering.error.message}
        </p>
      )}
      <Button type="submit" look="primary" busy={entering.isPending}>
        Sign in
      </Button>
      <button
        type="button"
        className="self-start text-ink2 underline hover:text-ink"
        onClick={() => setForgot(true)}
      >
        Forgot your password?
      </button>
      {forgot && <ForgotDialog onClose={() => setForgot(false)} />}
    </form>
  );
}
