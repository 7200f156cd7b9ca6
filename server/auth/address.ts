/**
 * Header that the web server sets from the socket; what a client sends under this or a forwarding name is
 * removed.
 */
export const SOCKET_ADDRESS_HEADER = 'x-bm-socket-address';
