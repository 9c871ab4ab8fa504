import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Campaign, type CampaignDocument, readYaml, yamlQuery } from "@/api/campaigns";
import { ProblemError } from "@/api/client";
import { useChange } from "@/api/useChange";
import { Button, buttonLook } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

interface YamlDialogProps {
  blog: string;
  campaign: Campaign;
  onLoad: (document: CampaignDocument) => void;
  onClose: () => void;
}

/** The saved rules as YAML, to export or import. */
export function YamlDialog({ blog, campaign, onLoad, onClose }: YamlDialogProps) {
  const saved = useQuery(yamlQuery(blog, campaign.slug));
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? saved.data?.yaml ?? "";
  const reading = useChange(() => readYaml(shown), {
    onDone: (document) => {
      onLoad(document);
      onClose();
    },
  });
  const faults = reading.error instanceof ProblemError ? reading.error.faults : [];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Rules as YAML"
      description="Copy or download these rules, or paste other rules here. Nothing is saved until you save on the bench."
    >
      <textarea
        aria-label="Rules as YAML"
        rows={16}
        spellCheck={false}
        value={shown}
        onChange={(event) => setText(event.target.value)}
        className="w-full rounded-[7px] border border-line bg-chalk px-2.5 py-1.5 font-mono text-[11.5px]"
      />
      {reading.error && (
        <ul role="alert" className="mt-1 max-h-28 overflow-auto text-xs font-medium text-madder">
          {faults.length === 0 && <li>{reading.error.message}</li>}
          {faults.map((fault) => (
            <li key={fault.path + fault.message}>
              {fault.path && <span className="font-mono">{fault.path}: </span>}
              {fault.message}
              {fault.hint && `; ${fault.hint}`}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-3 flex justify-end gap-2">
        {saved.data && (
          <a
            className={buttonLook("plain")}
            download={saved.data.file_name}
            href={`data:application/yaml;charset=utf-8,${encodeURIComponent(saved.data.yaml)}`}
          >
            Download
          </a>
        )}
        <Button
          look="primary"
          busy={reading.isPending}
          disabled={text === null}
          onClick={() => reading.mutate()}
        >
          Load on the bench
        </Button>
      </div>
    </Dialog>
  );
}
