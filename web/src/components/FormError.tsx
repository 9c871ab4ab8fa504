import { hasFaultIn } from "@/api/client";

/** The error of a form, unless a field shows it already. */
export function FormError({ error, fields = [] }: { error: Error | null; fields?: readonly string[] }) {
  if (!error) return null;
  if (hasFaultIn(error, fields)) return null;
  return (
    <p role="alert" className="font-medium text-madder">
      {error.message}
    </p>
  );
}
