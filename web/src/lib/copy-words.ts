const FAULTS: Record<string, string> = {
  empty: "the answer was empty",
  too_large: "it is larger than what is copied",
  too_many_pixels: "it has more than 40 million pixels",
  svg: "it is a drawing (SVG), which can hold scripts",
  no_picture: "it is no picture in a format that is taken",
  broken: "it is a broken picture",
  too_costly: "it takes too much time to read",
  no_recording: "it is no film or sound in a format that is taken",
  stopped: "it was stopped",
  storage: "the storage of the server does not answer, or is full",
};

/** The reason why a copy failed: the fetcher's words, or those of a code. */
export function copyFault(fault: string, why: string): string {
  return why || FAULTS[fault] || fault;
}
