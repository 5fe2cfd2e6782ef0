/** What is used of the platform, which browsers, workers and Node share. */
const platform = globalThis as unknown as { atob(text: string): string; btoa(text: string): string };

export const bytesOf = (base64: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(platform.atob(base64), (c) => c.charCodeAt(0));

export const base64Of = (bytes: Uint8Array): string => {
  let text = '';
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return platform.btoa(text);
};
