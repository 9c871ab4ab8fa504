import { OptionalMoment } from "./OptionalMoment";

interface WordTimeProps {
  label: string;
  /** A moment (ISO 8601), or none. */
  value: string | null;
  none: string;
  onChange: (value: string | null) => void;
}

const MINUTE_LENGTH = "2026-11-24T12:05".length;

/** Formats a moment for the browser's input: local time, to the minute. */
function local(value: string | number): string {
  const moment = new Date(value);
  return new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000)
    .toISOString()
    .slice(0, MINUTE_LENGTH);
}

/** An optional moment in a sentence. */
export function WordTime({ value, onChange, ...rest }: WordTimeProps) {
  return (
    <OptionalMoment
      {...rest}
      type="datetime-local"
      value={value === null ? null : local(value)}
      begin={() => local(Date.now())}
      onChange={(text) => onChange(text === null ? null : new Date(text).toISOString())}
    />
  );
}
