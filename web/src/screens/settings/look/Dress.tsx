import type { Appearance } from "@/api/blogs";
import { Field, inputLook } from "@/ui/Field";
import { LookChoice } from "./LookChoice";
import { CORNERS, DENSITIES, LETTERS, MASTHEADS } from "./looks";
import { PictureBoxWords } from "./PictureBoxWords";

const USUAL_BOX = { ratio: "usual", fit: "crop" } as const;

interface DressProps {
  look: Appearance;
  onChange: (changed: Partial<Appearance>) => void;
  fault: (name: string) => string | undefined;
}

/** Masthead, letters, spacing, corners, colours and marks. */
export function Dress({ look, onChange, fault }: DressProps) {
  return (
    <>
      <LookChoice
        legend="Masthead"
        options={MASTHEADS}
        value={look.masthead ?? "sky"}
        onChange={(masthead) => onChange({ masthead })}
      />
      <LookChoice
        legend="Letters"
        options={LETTERS}
        value={look.letters ?? "reading"}
        onChange={(letters) => onChange({ letters })}
      />
      <div className="grid grid-cols-2 gap-4">
        <LookChoice
          legend="Spacing"
          options={DENSITIES}
          value={look.density ?? "roomy"}
          onChange={(density) => onChange({ density })}
        />
        <LookChoice
          legend="Corners"
          options={CORNERS}
          value={look.corners ?? "soft"}
          onChange={(corners) => onChange({ corners })}
        />
      </div>
      <div className="grid grid-cols-2 gap-4">
        <Field label="Colour of links" hint="By night it is made lighter." error={fault("accent")}>
          <input
            type="color"
            className={`${inputLook} h-10 p-1`}
            value={look.accent}
            onChange={(event) => onChange({ accent: event.target.value })}
          />
        </Field>
        <Field label="Colour of the masthead" error={fault("ground")}>
          <input
            type="color"
            className={`${inputLook} h-10 p-1`}
            value={look.ground}
            disabled={look.masthead === "plain"}
            onChange={(event) => onChange({ ground: event.target.value })}
          />
        </Field>
      </div>
      <PictureBoxWords
        legend="Pictures in lists"
        box={look.list_pictures ?? USUAL_BOX}
        onChange={(list_pictures) => onChange({ list_pictures })}
      />
      <PictureBoxWords
        legend="Picture of a post"
        box={look.post_picture ?? USUAL_BOX}
        onChange={(post_picture) => onChange({ post_picture })}
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={look.marks}
          onChange={(event) => onChange({ marks: event.target.checked })}
        />
        Each source has a mark in a colour of its own
      </label>
    </>
  );
}
