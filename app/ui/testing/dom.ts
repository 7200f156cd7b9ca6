/** What tests of components need of a browser that jsdom does not have: sizes, and observers that see nothing. */
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
// jsdom looks through the whole page for the labels of each field; a page of settings takes it ten seconds.
for (const field of [HTMLInputElement, HTMLSelectElement, HTMLTextAreaElement, HTMLButtonElement])
  Object.defineProperty(field.prototype, 'labels', {
    configurable: true,
    get(this: HTMLElement) {
      return [...document.getElementsByTagName('label')].filter(
        (l) => (this.id !== '' && l.htmlFor === this.id) || (l.htmlFor === '' && l.contains(this)),
      );
    },
  });
