/**
 * 106 bits that tell texts apart, as text: for keeping, not for security. Two runs of cyrb53 with different seeds (bryc 2018,
 * public domain).
 */
export const fingerprint = (text: string): string => `${cyrb53(text, 0).toString(36)}-${cyrb53(text, 0x5bd1e995).toString(36)}`;

function cyrb53(text: string, seed: number): number {
  let [a, b] = [0xdeadbeef ^ seed, 0x41c6ce57 ^ seed];
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 2654435761);
    b = Math.imul(b ^ c, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return 4294967296 * (2097151 & b) + (a >>> 0);
}
