import type { Connection } from "@/api/platforms";
import { moment } from "@/lib/format";

const STATES: Record<Connection["state"], { label: string; tone: "verd" | "madder" | "ochre" | "plain" }> = {
  unchecked: { label: "not checked", tone: "plain" },
  unsigned: { label: "never signed in", tone: "ochre" },
  valid: { label: "valid", tone: "verd" },
  wrong: { label: "wrong key", tone: "madder" },
  expired: { label: "expired", tone: "madder" },
  not_enabled: { label: "not enabled", tone: "madder" },
  over_limit: { label: "over its limit", tone: "ochre" },
  unreachable: { label: "not reached", tone: "madder" },
};

/** The name and tone of a connection's state. */
export function stateOf(connection: Connection) {
  return STATES[connection.state];
}

export function usedToday(connection: Connection): number {
  return connection.used.reduce((sum, { used }) => sum + used, 0);
}

/** The state of a connection in a sentence. */
export function connectionWords(connection: Connection): string {
  const used = usedToday(connection);
  const quota = connection.limit_a_day
    ? `${used} of ${connection.limit_a_day} requests used today`
    : `${used} requests today`;
  const waits = connection.waits_until ? `, waits until ${moment(connection.waits_until)}` : "";
  return `${stateOf(connection).label}; ${quota}${waits}`;
}
