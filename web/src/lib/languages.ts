const names = new Intl.DisplayNames(["en"], { type: "language" });

/** The name of a language in English. Its tag where it has none. */
export function languageName(tag: string): string {
  try {
    return names.of(tag) ?? tag;
  } catch {
    return tag;
  }
}

/** The languages that are offered first, by their tags (BCP 47). */
export const LANGUAGES = [
  "ar",
  "de",
  "en",
  "es",
  "fr",
  "it",
  "ja",
  "nl",
  "pl",
  "pt",
  "ru",
  "uk",
  "zh",
] as const;

const TAG = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/;

/** Whether a text can be the tag of a language (BCP 47). */
export function isLanguageTag(text: string): boolean {
  return TAG.test(text);
}

/** The language of a tag without script and region. */
export function baseLanguage(tag: string): string {
  return tag.split("-")[0]?.toLowerCase() ?? "";
}
