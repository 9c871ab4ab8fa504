import { useState } from "react";
import { keys } from "@/api/keys";
import { type Service, tryService } from "@/api/services";
import { useChange } from "@/api/useChange";
import { TEXT_FAULTS } from "@/lib/wording/shape";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

const SENTENCE = "On Saturday the club of Orrin Velde opens its new observatory at 8.45 in the evening.";
const LANGUAGES = ["ar", "de", "en", "es", "fr", "ja", "ru"] as const;
const DO: Record<Service["tasks"][number], string> = {
  translate: "Translate",
  reword: "Reword",
  summarise: "Summarise",
};

interface TryDialogProps {
  blog: string;
  service: Service;
  onClose: () => void;
}

/** One text sent to a service, and what would become of its answer. */
export function TryDialog({ blog, service, onClose }: TryDialogProps) {
  const [task, setTask] = useState(service.tasks[0] ?? "translate");
  const [text, setText] = useState(SENTENCE);
  const [source, setSource] = useState("en");
  const [target, setTarget] = useState("de");
  const trying = useChange(
    () =>
      tryService(blog, service.key, { task, text, source, target: task === "translate" ? target : source }),
    { refresh: [keys.services(blog)] },
  );
  const tried = trying.data;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Try “${service.name}”`}
      description="Sends this text, which may cost something. Nothing of it is kept."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          trying.mutate();
        }}
      >
        <p>
          <WordSelect
            label="What to do"
            value={task}
            options={service.tasks.map((one) => ({ value: one, label: DO[one] }))}
            onChange={setTask}
          />{" "}
          from{" "}
          <WordText label="From" value={source} known={LANGUAGES} placeholder="en" onChange={setSource} />
          {task === "translate" && (
            <>
              {" "}
              into{" "}
              <WordText label="Into" value={target} known={LANGUAGES} placeholder="de" onChange={setTarget} />
            </>
          )}
        </p>
        <Field label="Text">
          <textarea
            className={`${inputLook} h-24`}
            value={text}
            maxLength={1000}
            onChange={(event) => setText(event.target.value)}
          />
        </Field>
        <Button type="submit" look="primary" busy={trying.isPending} disabled={!text.trim()}>
          Send it
        </Button>
        {trying.error && (
          <p role="alert" className="text-madder">
            {trying.error.message}
          </p>
        )}
        {tried && (
          <div role="status" className="rounded-md border border-line p-3">
            {tried.answer && <p dir="auto">{tried.answer}</p>}
            <p className={`mt-1 text-xs ${tried.fault ? "text-madder" : "text-verd"}`}>
              {tried.fault
                ? `No post would get this: ${TEXT_FAULTS[tried.fault] ?? tried.fault}. ${tried.detail}`
                : "It passes all checks."}{" "}
              <span className="text-ink3">
                {tried.milliseconds} ms{tried.charged > 0 && `, ${tried.charged} counted by the service`}
              </span>
            </p>
          </div>
        )}
      </form>
    </Dialog>
  );
}
