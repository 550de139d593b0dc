import type { People } from '../access/people.js';
import type { Assembling } from '../assembling.js';
import type { Archives } from '../archive/archives.js';
import type { CheckOuts } from '../check-outs.js';
import type { Credited } from '../compare/credited.js';
import type { Documents } from '../documents.js';
import type { Filing } from '../filing.js';
import type { Files } from '../formats/files.js';
import type { Homecoming } from '../homecoming.js';
import type { Landmarks } from '../landmarks.js';
import type { Channel } from '../live/channel.js';
import type { LookingBack } from '../past/looking-back.js';
import type { Arrivals } from '../mail/arrivals.js';
import type { Post } from '../mail/post.js';
import type { Looks } from '../past/looks.js';
import type { Notices } from '../past/notices.js';
import type { Watching } from '../past/watching.js';
import type { Shelf } from '../shelf.js';
import type { TakingBack } from '../taking-back.js';
import type { Database } from '../store/database.js';
import type { Images } from './images.js';

/** What the API's routes call. */
export interface Services {
  readonly database: Database;
  readonly people: People;
  readonly documents: Documents;
  readonly credited: Credited;
  readonly images: Images;
  readonly files: Files;
  readonly archives: Archives;
  readonly arrivals: Arrivals;
  readonly post: Post;
  readonly filing: Filing;
  readonly landmarks: Landmarks;
  readonly shelf: Shelf;
  readonly lookingBack: LookingBack;
  readonly looks: Looks;
  readonly watching: Watching;
  readonly notices: Notices;
  readonly takingBack: TakingBack;
  readonly homecoming: Homecoming;
  readonly assembling: Assembling;
  readonly checkOuts: CheckOuts;
  readonly channel: Channel;
  readonly demo: boolean;
  readonly version: string;
}
