import type { Appearance } from "@/api/blogs";
import { Field, inputLook } from "@/ui/Field";
import { FITS, RATIOS } from "./looks";

type Box = NonNullable<Appearance["list_pictures"]>;

interface PictureBoxWordsProps {
  legend: string;
  box: Box;
  onChange: (box: Box) => void;
}

/** The box of lead pictures: its ratio, and what becomes of pictures of another. */
export function PictureBoxWords({ legend, box, onChange }: PictureBoxWordsProps) {
  return (
    <fieldset className="grid grid-cols-2 gap-4">
      <legend className="mb-1 font-semibold">{legend}</legend>
      <Field label="Ratio">
        <select
          className={inputLook}
          value={box.ratio}
          onChange={(event) => onChange({ ...box, ratio: event.target.value as Box["ratio"] })}
        >
          {RATIOS.map((one) => (
            <option key={one.value} value={one.value}>
              {one.label}
            </option>
          ))}
        </select>
      </Field>
      <Field label="Pictures of another ratio">
        <select
          className={inputLook}
          value={box.fit}
          disabled={box.ratio === "own"}
          onChange={(event) => onChange({ ...box, fit: event.target.value as Box["fit"] })}
        >
          {FITS.map((one) => (
            <option key={one.value} value={one.value}>
              {one.label}
            </option>
          ))}
        </select>
      </Field>
    </fieldset>
  );
}
