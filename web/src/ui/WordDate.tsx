import { OptionalMoment } from "./OptionalMoment";

interface WordDateProps {
  label: string;
  /** A day (ISO 8601), or none. */
  value: string | null;
  none: string;
  onChange: (value: string | null) => void;
}

const DAY_LENGTH = "2026-11-24".length;

function today(): string {
  return new Date().toISOString().slice(0, DAY_LENGTH);
}

/** An optional day in a sentence. */
export function WordDate(props: WordDateProps) {
  return <OptionalMoment {...props} type="date" begin={today} />;
}
