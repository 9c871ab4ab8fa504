import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useForm } from "react-hook-form";
import { type Session, sessionQuery, signIn } from "@/api/session";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";

interface Form {
  name: string;
  password: string;
}

/** Name and password. `onEntered` is told who has come in. */
export function SignInForm({ onEntered }: { onEntered?: (session: Session) => void }) {
  const queries = useQueryClient();
  const form = useForm<Form>({ defaultValues: { name: "", password: "" } });
  const entering = useMutation({
    mutationFn: ({ name, password }: Form) => signIn(name, password),
    onSuccess: (session) => {
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
      {entering.error && (
        <p role="alert" className="font-medium text-madder">
          {entering.error.message}
        </p>
      )}
      <Button type="submit" look="primary" busy={entering.isPending}>
        Sign in
      </Button>
    </form>
  );
}
