import { describe, expect, it } from "vitest";
import { toBase64 } from "./base64";

describe("Base64", () => {
  it("keeps every byte, however many there are", () => {
    const bytes = Uint8Array.from({ length: 100_003 }, (_, place) => (place * 7) % 256);
    const back = Uint8Array.from(atob(toBase64(bytes)), (char) => char.charCodeAt(0));
    expect(back).toEqual(bytes);
  });

  it("gives nothing for nothing", () => {
    expect(toBase64(new Uint8Array())).toBe("");
  });
});
