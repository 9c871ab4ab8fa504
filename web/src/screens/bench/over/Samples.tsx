import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { keepSample, samplesQuery } from "@/api/proofs";
import { useChange } from "@/api/useChange";
import { toBase64 } from "@/lib/base64";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";
import { KeptSample } from "./KeptSample";

interface SamplesProps {
  blog: string;
  chosen: number | null;
  onChoose: (sample: number | null) => void;
}

const LARGEST = 3_000_000;

/** A feed given by hand: an address, a file, or pasted text. Its items count as those of the first source. */
export function Samples({ blog, chosen, onChoose }: SamplesProps) {
  const samples = useQuery(samplesQuery(blog)).data ?? [];
  const [text, setText] = useState("");
  const [tooLarge, setTooLarge] = useState("");
  const keep = (body: { address?: string; content?: string; name?: string }) => keepSample(blog, body);
  const keeping = useChange(keep, {
    refresh: [keys.samples(blog)],
    onDone: (made) => {
      setText("");
      onChoose(made.id);
    },
  });
  const given = text.trim();
  const isAddress = /^https?:\/\/\S+$/.test(given);

  async function upload(chosenFile: File) {
    setTooLarge("");
    if (chosenFile.size > LARGEST) {
      setTooLarge(`${chosenFile.name} is larger than 3 MB. Give a shorter feed.`);
      return;
    }
    keeping.mutate({
      content: toBase64(new Uint8Array(await chosenFile.arrayBuffer())),
      name: chosenFile.name,
    });
  }

  return (
    <section aria-label="A sample" className="leading-normal">
      <h3 className="text-sm">A sample</h3>
      <textarea
        aria-label="Address or feed"
        rows={3}
        value={text}
        spellCheck={false}
        placeholder="An address, or a pasted feed (RSS, Atom, JSON Feed)"
        className={`${inputLook} mt-1 font-mono text-[11.5px]`}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="mt-1 flex gap-2">
        <Button
          small
          busy={keeping.isPending}
          disabled={!given}
          onClick={() =>
            keeping.mutate(
              isAddress
                ? { address: given }
                : { content: toBase64(new TextEncoder().encode(given)), name: "Pasted sample" },
            )
          }
        >
          {isAddress ? "Fetch it for the proof" : "Use it for the proof"}
        </Button>
        <FileButton
          label="Feed file"
          accept=".xml,.rss,.atom,.json,application/xml,application/json"
          onFile={upload}
        >
          Choose a file
        </FileButton>
      </div>
      {(keeping.error || tooLarge) && (
        <p role="alert" className="mt-1 text-xs font-medium text-madder">
          {tooLarge || keeping.error?.message}
        </p>
      )}
      {samples.length > 0 && (
        <ul aria-label="Samples given before" className="mt-2 max-h-28 overflow-auto text-xs">
          {samples.map((sample) => (
            <KeptSample
              key={sample.id}
              blog={blog}
              sample={sample}
              chosen={sample.id === chosen}
              onChoose={() => onChoose(sample.id)}
              onRemoved={() => sample.id === chosen && onChoose(null)}
            />
          ))}
        </ul>
      )}
    </section>
  );
}
