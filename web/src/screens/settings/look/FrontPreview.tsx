import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Appearance, previewAppearance } from "@/api/blogs";
import { ProblemError } from "@/api/client";
import { keys } from "@/api/keys";
import { ErrorNote } from "@/components/ErrorNote";
import { useSettled } from "@/lib/useSettled";
import { useWidth } from "@/lib/useWidth";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";

const WIDTHS = { phone: 380, tablet: 800, desk: 1280 } as const;

/** The front of a blog in a look that is not saved, as wide as a phone, a tablet or a desk. */
export function FrontPreview({ blog, appearance }: { blog: string; appearance: Appearance }) {
  const [width, setWidth] = useState<keyof typeof WIDTHS>("desk");
  const [night, setNight] = useState(false);
  const wanted = useSettled(appearance);
  const [room, wide] = useWidth();
  const scale = Math.min(1, wide / WIDTHS[width]) || 1;
  const shown = useQuery({
    queryKey: [...keys.blog(blog), "look", wanted, night],
    queryFn: () => previewAppearance(blog, { appearance: wanted, night }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const [front, setFront] = useState("");
  // A look that cannot be shown leaves the front as it was.
  if (shown.data && shown.data.html !== front) setFront(shown.data.html);
  const fault = shown.error instanceof ProblemError ? shown.error.faults[0]?.message : undefined;
  return (
    <section className="flex min-h-0 min-w-0 flex-col" aria-label="Preview of the front">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-1 border-line border-b px-5 py-2">
        <Segmented
          label="Width"
          options={[
            { value: "phone", label: "Phone" },
            { value: "tablet", label: "Tablet" },
            { value: "desk", label: "Desk" },
          ]}
          value={width}
          onChange={setWidth}
        />
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={night} onChange={(event) => setNight(event.target.checked)} />
          By night
        </label>
      </div>
      {fault && (
        <p role="status" className="border-line border-b px-5 py-2 text-madder">
          Not shown: {fault}
        </p>
      )}
      {shown.error && !fault && <ErrorNote error={shown.error} onRetry={shown.refetch} />}
      <Scroll label="The front" className="min-h-[30rem] flex-1 bg-sunk p-4">
        <div ref={room} className="h-full">
          <iframe
            title="The front in this look"
            sandbox="allow-same-origin"
            className="mx-auto block border-0 bg-white shadow"
            style={{ width: WIDTHS[width], height: `${100 / scale}%`, minHeight: "28rem", zoom: scale }}
            srcDoc={front}
          />
        </div>
      </Scroll>
    </section>
  );
}
