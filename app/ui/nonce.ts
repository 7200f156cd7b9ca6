import { createContext } from 'react';

/** The nonce of this answer's content policy; empty in the browser, where it is not needed any more. */
export const NonceContext = createContext('');
