/** Hands a text to the browser to be saved as a file. */
export const saveFile = (name: string, text: string, type: string): void => saveBlob(name, new Blob([text], { type }));
/** Hands bytes to the browser to be saved as a file. */
export function saveBlob(name: string, blob: Blob): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name.replace(/[^\w.-]+/g, '-');
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
/** Asks for a file; undefined when none is chosen. */
export function askForFile(accept: string): Promise<File | undefined> {
  return new Promise((resolve) => {
    const input = Object.assign(document.createElement('input'), { type: 'file', accept });
    input.addEventListener('change', () => resolve(input.files?.[0]));
    input.addEventListener('cancel', () => resolve(undefined));
    input.click();
  });
}
/** The same, and gives the file's text. */
export const askForText = async (accept: string): Promise<string | undefined> => (await askForFile(accept))?.text();

/** Has the browser save what an address of the server gives, under the name that the server says. */
export const saveFrom = (address: string): void =>
  Object.assign(document.createElement('a'), { href: address, download: '' }).click();
