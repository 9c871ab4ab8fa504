import { ProblemError } from "@/api/client";

/** The error of a form, unless a field shows it already. */
export function FormError({ error, fields = [] }: { error: Error | null; fields?: readonly string[] }) {
  if (!error) return null;
  const shown =
    error instanceof ProblemError &&
    error.faults.some((fault) =>
      fields.some((one) => fault.path.endsWith(one) || fault.path.includes(`${one}.`)),
    );
  if (shown) return null;
  return (
    <p role="alert" className="font-medium text-madder">
      {error.message}
    </p>
  );
}
