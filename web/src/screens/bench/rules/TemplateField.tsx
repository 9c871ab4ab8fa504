import { useQuery } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense } from "react";
import { variablesQuery } from "@/api/campaigns";

const TemplateEditor = lazy(() => import("@/components/template/TemplateEditor"));

interface TemplateFieldProps {
  label: string;
  value: string;
  rows: number;
  fault?: string | undefined;
  /** Variables beyond the general ones, with their descriptions. */
  more?: Readonly<Record<string, string>>;
  takesOffers?: boolean;
  aside?: ReactNode;
  onChange: (value: string) => void;
}

const NONE: Readonly<Record<string, string>> = {};

/** A Liquid template with completion of its variables. */
export function TemplateField({
  label,
  value,
  rows,
  fault,
  more = NONE,
  takesOffers = false,
  aside,
  onChange,
}: TemplateFieldProps) {
  const variables = useQuery(variablesQuery).data ?? NONE;
  return (
    <>
      <div className="flex items-center gap-2">
        <span className="font-medium">{label}</span>
        <span
          className="text-xs text-ink3"
          title={takesOffers ? "Type {{ for the variables, {% for offers" : "Type {{ for the variables"}
        >
          Liquid
        </span>
        <span className="ml-auto">{aside}</span>
      </div>
      <Suspense
        fallback={
          <div
            className="mt-1 rounded-md border border-line bg-chalk px-2 py-1 font-mono text-[11.5px] text-ink3"
            style={{ minHeight: `${rows * 1.45}em` }}
          >
            {value}
          </div>
        }
      >
        <TemplateEditor
          label={label}
          value={value}
          rows={rows}
          fault={fault}
          variables={{ ...variables, ...more }}
          takesOffers={takesOffers}
          onChange={onChange}
        />
      </Suspense>
      {fault && (
        <p role="alert" className="text-xs font-medium text-madder">
          {fault}
        </p>
      )}
    </>
  );
}
