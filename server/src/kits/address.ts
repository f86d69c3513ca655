/** @throws Error that says the form */
export function readStockAddress(text: string): string {
  if (!/^https?:\/\/[A-Za-z0-9.:-]+$/.test(text)) throw new Error(`--stock takes http://HOST:PORT, not "${text}"`);
  return text;
}
