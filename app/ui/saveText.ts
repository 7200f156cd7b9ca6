/** Saves text from the browser as a file; a name keeps what file systems take. */
export function saveText(name: string, text: string, type = 'application/json'): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const a = window.document.createElement('a');
  a.href = url;
  a.download = name.replace(/[^\p{L}\p{N}. _-]/gu, '');
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** Saves a document as JSON that people can read. */
export const saveJson = (name: string, document: object): void =>
  saveText(name, JSON.stringify(document, null, 2));
