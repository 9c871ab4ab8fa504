import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { keys } from "@/api/keys";
import { changePicture, type Picture, pictureUsesQuery, removePicture } from "@/api/media";
import { useChange } from "@/api/useChange";
import { CopyText } from "@/components/CopyText";
import { FormError } from "@/components/FormError";
import { desk } from "@/lib/blog-path";
import { bytes } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";
import { FocusPoint } from "./FocusPoint";

interface PictureDialogProps {
  blog: string;
  picture: Picture;
  editor: boolean;
  onClose: () => void;
}

/** A picture's description, credit, focus and posts. */
export function PictureDialog({ blog, picture, editor, onClose }: PictureDialogProps) {
  const [name, setName] = useState(picture.name);
  const [alt, setAlt] = useState(picture.alt);
  const [credit, setCredit] = useState(picture.credit);
  const [labels, setLabels] = useState(picture.labels.join(", "));
  const [focus, setFocus] = useState({ x: picture.focus_x, y: picture.focus_y });
  const uses = useQuery(pictureUsesQuery(blog, picture.id));
  const refresh = [keys.pictures(blog)];
  const saving = useChange(
    () =>
      changePicture(blog, picture.id, {
        name,
        alt,
        credit,
        labels: labels
          .split(",")
          .map((label) => label.trim())
          .filter(Boolean),
        focus_x: focus.x,
        focus_y: focus.y,
      }),
    { refresh, onDone: onClose },
  );
  const removing = useChange(() => removePicture(blog, picture.id), { refresh, onDone: onClose });
  return (
    <Dialog open wide onOpenChange={onClose} title={picture.name}>
      <form
        className="grid gap-6 md:grid-cols-[minmax(0,1fr)_340px]"
        onSubmit={(event) => {
          event.preventDefault();
          saving.mutate();
        }}
      >
        <div>
          <FocusPoint
            src={picture.url}
            alt={alt}
            x={focus.x}
            y={focus.y}
            disabled={!editor}
            onChange={(x, y) => setFocus({ x, y })}
          />
          <p className="mt-2 text-xs text-ink3">
            The ring stays in sight where the picture is cropped. {picture.width} × {picture.height} pixels,{" "}
            {bytes(picture.size)} in all sizes.
          </p>
          <div className="mt-3 flex gap-3">
            {["3 / 2", "1 / 1", "3 / 1"].map((ratio) => (
              <img
                key={ratio}
                src={picture.small}
                alt={`Cropped to ${ratio}`}
                className="h-20 rounded bg-sunk object-cover"
                style={{ aspectRatio: ratio, objectPosition: `${focus.x * 100}% ${focus.y * 100}%` }}
              />
            ))}
          </div>
        </div>
        <fieldset disabled={!editor} className="space-y-3">
          <Field label="Name">
            <input
              className={inputLook}
              value={name}
              required
              maxLength={200}
              onChange={(event) => setName(event.target.value)}
            />
          </Field>
          <Field label="What it shows" hint="Read aloud to people who do not see it.">
            <input
              className={inputLook}
              value={alt}
              maxLength={300}
              onChange={(event) => setAlt(event.target.value)}
            />
          </Field>
          <Field label="Credit" hint="Stands under it on the blog.">
            <input
              className={inputLook}
              value={credit}
              maxLength={300}
              onChange={(event) => setCredit(event.target.value)}
            />
          </Field>
          <Field label="Labels" hint="Parted by commas.">
            <input className={inputLook} value={labels} onChange={(event) => setLabels(event.target.value)} />
          </Field>
          <CopyText label="Its address" text={picture.url} />
          <div>
            <p className="font-semibold">Shown by</p>
            {uses.data?.length === 0 && <p className="text-xs text-ink3">No post shows it.</p>}
            <ul className="max-h-28 overflow-auto text-xs">
              {uses.data?.map((use) => (
                <li key={use.id}>
                  <Link className="hover:text-verd" to={desk.post(blog, use.id)}>
                    {use.title}
                  </Link>
                </li>
              ))}
            </ul>
          </div>
          <FormError error={saving.error ?? removing.error} />
          {editor && (
            <div className="flex justify-between gap-2">
              {picture.shown_by === 0 ? (
                <Confirm
                  trigger={<Button look="danger">Remove</Button>}
                  title={`Remove “${picture.name}”?`}
                  text="Its files go. Rules that name its address show no picture then."
                  action="Remove"
                  onConfirm={() => removing.mutate()}
                />
              ) : (
                <span />
              )}
              <span className="flex gap-2">
                <Button onClick={onClose}>Cancel</Button>
                <Button type="submit" look="primary" busy={saving.isPending}>
                  Save
                </Button>
              </span>
            </div>
          )}
        </fieldset>
      </form>
    </Dialog>
  );
}
