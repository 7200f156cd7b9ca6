/**
 * Set up before each file of tests of components, which share one document: what they need of a browser that jsdom does
 * not have, such as sizes and observers that see nothing.
 */
import { cleanup, configure } from '@testing-library/react';
import { afterEach } from 'vitest';
import { startI18n } from '../../i18n.ts';

startI18n();
afterEach(cleanup);
// What is waited for comes when it comes: a machine that is busy is no fault.
configure({ asyncUtilTimeout: 8000 });
Object.defineProperty(HTMLElement.prototype, 'offsetHeight', { configurable: true, get: () => 460 });
Object.defineProperty(HTMLElement.prototype, 'offsetWidth', { configurable: true, get: () => 900 });
Object.defineProperty(HTMLElement.prototype, 'clientHeight', { configurable: true, get: () => 460 });
HTMLElement.prototype.scrollTo = () => undefined;
globalThis.ResizeObserver = class {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
};
// jsdom looks through the whole page for the labels of each field; here they are looked for once after each change.
const labelsByField = new Map<string, HTMLLabelElement[]>();
let areLabelsOld = true;
const changes = new MutationObserver(() => {
  areLabelsOld = true;
});
changes.observe(document, { subtree: true, childList: true, attributes: true, attributeFilter: ['for'] });
function labelsFor(id: string): HTMLLabelElement[] {
  if (changes.takeRecords().length > 0 || areLabelsOld) {
    labelsByField.clear();
    for (const label of document.querySelectorAll('label'))
      labelsByField.set(label.htmlFor, [...(labelsByField.get(label.htmlFor) ?? []), label]);
    areLabelsOld = false;
  }
  return id === '' ? [] : (labelsByField.get(id) ?? []);
}
for (const field of [HTMLInputElement, HTMLSelectElement, HTMLTextAreaElement, HTMLButtonElement])
  Object.defineProperty(field.prototype, 'labels', {
    configurable: true,
    get(this: HTMLElement) {
      const around = this.closest('label');
      return [...labelsFor(this.id), ...(around !== null && around.htmlFor === '' ? [around] : [])];
    },
  });
// To ask whether something shows, jsdom holds each element against every rule of style there is, and rules gather while
// files share the document. What our components hide, they hide by their own style.
const isHidden = (element: Element | null): boolean =>
  element instanceof HTMLElement &&
  (element.style.visibility === 'hidden' || isHidden(element.parentElement));
window.getComputedStyle = (element) => {
  const own = (element as HTMLElement).style;
  return new Proxy(own, {
    get: (style, name) =>
      name === 'visibility' && isHidden(element) ? 'hidden' : Reflect.get(style, name, style),
  });
};
