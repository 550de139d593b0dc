import type { Channel } from '../live/channel.js';
import type { Services } from '../services.js';

/** What the API's routes call: the services, and who is connected. */
export interface Ways extends Services {
  readonly channel: Channel;
  readonly demo: boolean;
  readonly version: string;
}
