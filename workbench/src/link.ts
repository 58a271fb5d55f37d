/** Bytes that the design of a link may have, packed or not. */
const largest = 800_000;

const mark = 'design=';

/** A link to this page that holds a design. */
export async function linkTo(text: string): Promise<string> {
  const packed = await through(new TextEncoder().encode(text), new CompressionStream('deflate-raw'));
  let binary = '';
  for (const byte of packed) binary += String.fromCharCode(byte);
  const word = btoa(binary).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');
  return `${location.origin}${location.pathname}#${mark}${word}`;
}

/** The design that the address holds: undefined where it holds none, `damaged` or `too large` where it cannot be taken out. */
export async function designInLink(): Promise<
  { readonly text: string } | 'damaged' | 'too large' | undefined
> {
  const hash = location.hash.slice(1);
  if (!hash.startsWith(mark)) return undefined;
  try {
    const binary = atob(hash.slice(mark.length).replaceAll('-', '+').replaceAll('_', '/'));
    const packed = Uint8Array.from(binary, (letter) => letter.charCodeAt(0));
    const found = await through(packed, new DecompressionStream('deflate-raw'));
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(found) };
  } catch (error) {
    return error instanceof TooLarge ? 'too large' : 'damaged';
  }
}

class TooLarge extends Error {}

/** Reads what comes out of a stream as far as it is not too large: a small link can hold a huge text. */
async function through(
  bytes: Uint8Array<ArrayBuffer>,
  change: CompressionStream | DecompressionStream,
): Promise<Uint8Array> {
  const reader = new Blob([bytes]).stream().pipeThrough(change).getReader();
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let length = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    length += value.length;
    if (length > largest) {
      await reader.cancel();
      throw new TooLarge();
    }
    parts.push(value);
  }
  return new Uint8Array(await new Blob(parts).arrayBuffer());
}
