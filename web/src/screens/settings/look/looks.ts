import type { Appearance } from "@/api/blogs";

export interface Option<T> {
  value: T;
  label: string;
  hint?: string;
}

export const FRONTS: Option<NonNullable<Appearance["front"]>>[] = [
  { value: "magazine", label: "Magazine", hint: "an opener, then a grid with pictures" },
  { value: "journal", label: "Journal", hint: "one column to read" },
  { value: "guide", label: "Shop guide", hint: "a row for each thing, values beside it" },
  { value: "screening", label: "Screening room", hint: "wide stills on a dark ground" },
  { value: "class", label: "Class board", hint: "notes in the colours of their sources" },
];

export const MASTHEADS: Option<NonNullable<Appearance["masthead"]>>[] = [
  { value: "sky", label: "Night sky" },
  { value: "band", label: "Band of colour" },
  { value: "plain", label: "Plain, on the paper" },
];

export const LETTERS: Option<NonNullable<Appearance["letters"]>>[] = [
  { value: "reading", label: "Grotesque headings, book text" },
  { value: "plain", label: "Grotesque throughout" },
  { value: "book", label: "Book letters throughout" },
];

export const DENSITIES: Option<NonNullable<Appearance["density"]>>[] = [
  { value: "roomy", label: "Roomy" },
  { value: "tight", label: "Tight" },
];

type Box = NonNullable<Appearance["list_pictures"]>;

export const RATIOS: Option<NonNullable<Box["ratio"]>>[] = [
  { value: "usual", label: "As usual for the front" },
  { value: "own", label: "Each its own" },
  { value: "16:9", label: "16 : 9" },
  { value: "3:2", label: "3 : 2" },
  { value: "4:3", label: "4 : 3" },
  { value: "1:1", label: "Square" },
  { value: "3:4", label: "3 : 4, upright" },
];

export const FITS: Option<NonNullable<Box["fit"]>>[] = [
  { value: "crop", label: "are cropped around their focus" },
  { value: "fit", label: "fit in whole" },
];

export const CORNERS: Option<NonNullable<Appearance["corners"]>>[] = [
  { value: "soft", label: "Soft" },
  { value: "sharp", label: "Sharp" },
];
