/** Marks a transaction that brings in what the server accepted; it is not sent again. */
export const REMOTE = 'remote';
