const AT_ONCE = 0x8000;

/** Bytes as Base64 (RFC 4648), in chunks, because a call takes a limited number of arguments. */
export function toBase64(bytes: Uint8Array): string {
  let text = "";
  for (let start = 0; start < bytes.length; start += AT_ONCE)
    text += String.fromCharCode(...bytes.subarray(start, start + AT_ONCE));
  return btoa(text);
}
