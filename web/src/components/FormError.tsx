import { ProblemError } from "@/api/client";

/** The error of a form, unless a field shows it already. */
export function FormError({ error, fields = [] }: { error: Error | null; fields?: readonly string[] }) {
  if (!error) return null;
  const shown =
    error instanceof ProblemError &&
    error.faults.some((fault) =>
      fields.some((field) => fault.path.endsWith(field) || fault.path.includes(`${field}.`)),
    );
  if (shown) return null;
  return (
    <p role="alert" className="font-medium text-madder">
      {error.message}
    </p>
  );
}
