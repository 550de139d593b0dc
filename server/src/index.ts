export type { Signed } from './access/people.js';
export { hashPassword } from './access/passwords.js';
export { createApp } from './app.js';
export type { App, AppOptions } from './app.js';
export { Room } from './live/room.js';
export { Rooms } from './live/rooms.js';
export { openDatabase } from './store/database.js';
export type { Database } from './store/database.js';
export { Moments } from './store/moments.js';
