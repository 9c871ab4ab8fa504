import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { faultAt } from "@/api/client";
import { type Asks, connectionsQuery, type Platform, type WordsCount } from "@/api/platforms";
import { Field, inputLook } from "@/ui/Field";
import { ConnectionDialog } from "./ConnectionDialog";
import { PlatformField } from "./PlatformField";
import { fieldsOf, needsConnection } from "./schema";
import { connectionWords } from "./states";
import { WordsLines } from "./WordsLines";

interface AskFormProps {
  blog: string;
  platform: Platform;
  asks: Asks;
  error: Error | null;
  /** Whether something was asked for without the connection that it needs. */
  unconnected?: boolean;
  counts?: readonly WordsCount[] | undefined;
  aimed?: string | undefined;
  onAim?: ((name: string) => void) | undefined;
  onChange: (asks: Asks) => void;
}

/** The platform parameters of a source: connection, parameters, and search lines. */
export function AskForm({
  blog,
  platform,
  asks,
  error,
  unconnected = false,
  counts,
  aimed,
  onAim,
  onChange,
}: AskFormProps) {
  const [making, setMaking] = useState(false);
  const all = useQuery(connectionsQuery(blog)).data ?? [];
  const fitting = all.filter((one) => one.platform === platform.key);
  const chosen = fitting.find(({ key }) => key === asks.connection);
  const optional = !needsConnection(platform);
  return (
    <div className="space-y-4">
      <div className="grid grid-cols-2 gap-x-4 gap-y-3">
        <Field
          label="Connection"
          error={
            unconnected && fitting.length
              ? "Choose a connection first: the platform wants a key."
              : faultAt(error, "connection")
          }
          hint={
            chosen ? (
              connectionWords(chosen)
            ) : fitting.length || optional ? undefined : (
              <span role={unconnected ? "alert" : undefined} className={unconnected ? "text-madder" : ""}>
                There is no connection to this platform yet.{" "}
                <button type="button" className="font-semibold text-verd" onClick={() => setMaking(true)}>
                  Make one
                </button>
              </span>
            )
          }
        >
          <select
            className={inputLook}
            value={asks.connection}
            onChange={(event) => onChange({ ...asks, connection: event.target.value })}
          >
            <option value="">{optional ? "none: it asks for no key" : "choose one"}</option>
            {fitting.map(({ key, name }) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </Field>
        {fieldsOf(platform.form).map((field) => (
          <PlatformField
            key={field.name}
            field={field}
            value={asks.parameters[field.name] ?? field.start}
            error={faultAt(error, `parameters.${field.name}`, true)}
            onChange={(value) =>
              onChange({ ...asks, parameters: { ...asks.parameters, [field.name]: value } })
            }
            aimed={field.name === "fields" ? aimed : undefined}
            onAim={field.name === "fields" ? onAim : undefined}
          />
        ))}
      </div>
      {making && (
        <ConnectionDialog
          blog={blog}
          platforms={[platform]}
          connection={null}
          start={platform.key}
          onClose={(made) => {
            setMaking(false);
            if (made) onChange({ ...asks, connection: made.key });
          }}
        />
      )}
      {platform.by_words && (
        <WordsLines
          lines={asks.search_words}
          counts={counts}
          onChange={(search_words) => onChange({ ...asks, search_words })}
        />
      )}
    </div>
  );
}
