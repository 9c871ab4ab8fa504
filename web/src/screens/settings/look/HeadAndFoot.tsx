import { useState } from "react";
import type { Appearance } from "@/api/blogs";
import { ChoosePicture } from "@/screens/media/ChoosePicture";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { WaysIn } from "./WaysIn";

interface HeadAndFootProps {
  blog: string;
  look: Appearance;
  onChange: (changed: Partial<Appearance>) => void;
  fault: (name: string) => string | undefined;
}

/** The logo, the menus and the text at the foot. */
export function HeadAndFoot({ blog, look, onChange, fault }: HeadAndFootProps) {
  const [choosing, setChoosing] = useState(false);
  const wayFault = (menu: string) => (place: number) =>
    fault(`${menu}.${place}.to`) ?? fault(`${menu}.${place}.label`);
  return (
    <>
      <div>
        <h2 className="font-semibold">Logo</h2>
        <p className="mb-1.5 text-ink3 text-xs">
          A picture in place of the name. Its description is the name.
        </p>
        {look.logo && <img src={look.logo} alt="" className="mb-2 max-h-16 max-w-full bg-sunk p-1" />}
        <div className="flex gap-2">
          <Button small onClick={() => setChoosing(true)}>
            {look.logo ? "Choose another" : "Choose a picture"}
          </Button>
          {look.logo && (
            <Button small look="quiet" onClick={() => onChange({ logo: "" })}>
              No logo
            </Button>
          )}
        </div>
      </div>
      <WaysIn
        legend="Menu"
        hint="Without entries it has the sections. A place on the blog ends with a slash: section/meteors/, about/."
        ways={look.menu ?? []}
        faultAt={wayFault("menu")}
        onChange={(menu) => onChange({ menu })}
      />
      <WaysIn
        legend="Menu at the foot"
        hint="For pages such as about/, imprint/ and privacy/. Write a page under Posts, with the kind “page”."
        ways={look.foot_menu ?? []}
        faultAt={wayFault("foot_menu")}
        onChange={(menu) => onChange({ foot_menu: menu })}
      />
      <Field label="Text at the foot" hint="Empty: a line that says that posts lead to their originals.">
        <textarea
          className={inputLook}
          rows={3}
          maxLength={500}
          value={look.foot}
          onChange={(event) => onChange({ foot: event.target.value })}
        />
      </Field>
      {choosing && (
        <ChoosePicture
          blog={blog}
          onClose={() => setChoosing(false)}
          onChosen={(picture) => {
            setChoosing(false);
            onChange({ logo: picture.url });
          }}
        />
      )}
    </>
  );
}
