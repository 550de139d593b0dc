import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import { Claims } from './access/claims.js';
import { Groups } from './access/groups.js';
import { People } from './access/people.js';
import { Shares } from './access/shares.js';
import { Archives } from './archive/archives.js';
import { Seals } from './archive/seals.js';
import { Comparisons } from './compare/comparisons.js';
import { Bin } from './documents/bin.js';
import { CheckOuts } from './documents/check-outs.js';
import { Collections } from './documents/collections.js';
import { Credited } from './documents/credited.js';
import { Deletion } from './documents/deletion.js';
import { Documents } from './documents/documents.js';
import { Places } from './documents/places.js';
import { ShownImages } from './documents/shown-images.js';
import { AskingOwners } from './erasing/asking-owners.js';
import { Blanker } from './erasing/blanker.js';
import { Copies } from './erasing/copies.js';
import { Derived } from './erasing/derived.js';
import { Eraser } from './erasing/eraser.js';
import { Erasures } from './erasing/erasures.js';
import { Extents } from './erasing/extent.js';
import { Journal } from './erasing/journal.js';
import { Messages } from './erasing/messages.js';
import { ReachByRights } from './erasing/reach-by-rights.js';
import { Search } from './erasing/search.js';
import { SecondOwner } from './erasing/second-owner.js';
import { Seeker } from './erasing/sought.js';
import { Thinning } from './erasing/thinning.js';
import { WordsElsewhere } from './erasing/words-elsewhere.js';
import { Filing } from './filing/filing.js';
import { Files } from './formats/files.js';
import { Assembling } from './going-back/assembling.js';
import { Becoming } from './going-back/becoming.js';
import { Homecoming } from './going-back/homecoming.js';
import { ReturnedFiles } from './filing/returned-files.js';
import { TakingBack } from './going-back/taking-back.js';
import { Arrivals } from './mail/arrivals.js';
import { Digests } from './mail/digests.js';
import { Letters } from './mail/letters.js';
import type { Mailing } from './mail/letters.js';
import { Post } from './mail/post.js';
import { Rooms } from './ordering/rooms.js';
import { Links } from './membership/links.js';
import { Membership } from './membership/membership.js';
import { Settings } from './membership/settings.js';
import { Notices } from './past/notices.js';
import { Past } from './past/past.js';
import { WordIndex } from './past/words.js';
import { ReadingLinks } from './reading/reading-links.js';
import { Gauges } from './shelf/gauges.js';
import { Looks } from './shelf/looks.js';
import { Met } from './shelf/met.js';
import { Asking } from './sharing/asking.js';
import { Sharing } from './sharing/sharing.js';
import { Shelf } from './shelf/shelf.js';
import { openDatabase } from './store/database.js';
import { Facts } from './store/facts.js';
import { Images } from './store/images.js';
import { Discards } from './versions/discards.js';
import { Landmarks } from './versions/landmarks.js';
import { Rules } from './versions/rules.js';
import { ToldVersions } from './versions/told-versions.js';
import { Versions } from './versions/versions.js';

/** Where a server keeps its data, and where it says what goes wrong beside the answers it gives. */
export interface Ground {
  /** Folder the data lives in. */
  readonly folder: string;
  /** A PostgreSQL address, to keep the data there instead of in SQLite. */
  readonly url?: string;
  readonly log: Logger;
  /** The address at which people reach this server, for links in mail. */
  readonly site?: () => string;
  readonly mailing?: Mailing;
}

/** What a server can do, without the ways in: each service once, and what it leans on. */
export type Services = Awaited<ReturnType<typeof openServices>>;

/** Opens the data and puts the services together. */
export async function openServices({ folder, url, log, site = () => '', mailing }: Ground) {
  const trouble =
    (what: string) =>
    (error: unknown): void =>
      log.error({ err: error }, what);
  const database = await openDatabase({ folder, url });
  const uploads = join(folder, 'uploads');
  await rm(uploads, { recursive: true, force: true });
  await mkdir(uploads, { recursive: true });
  const people = new People(database);
  await people.load();
  const groups = new Groups(database, people);
  const shares = new Shares(database, people, groups);
  const collections = new Collections(database, people, shares);
  const claims = new Claims(database, people);
  const images = new Images(database);
  const files = new Files();
  const comparisons = new Comparisons();
  database.epochs.onRaised(() => comparisons.forget());
  const rooms = new Rooms(database, people, trouble('keeping a checkpoint failed'));
  const { moments, histories } = rooms;
  const rules = new Rules(database);
  const versions = new Versions(database, moments, people, comparisons, rules);
  const told = new ToldVersions(database, versions, histories, comparisons);
  const deletion = new Deletion(database, rooms, new WordIndex(database));
  const documents = new Documents(database, people, rooms, versions, told, collections, deletion);
  const places = new Places(histories, told, people);
  const credited = new Credited(database, histories, places, people, comparisons, images);
  const becoming = new Becoming(people, rooms, histories, versions, told, comparisons);
  const filing = new Filing(database, rooms, becoming, images, files);
  const seals = new Seals(database, moments.log, people.logNames);
  const letters = new Letters(
    join(folder, 'mail'),
    files,
    (name, error) => log.warn({ err: error, name }, 'a message could not be read'),
    mailing,
  );
  const past = new Past(database, { folder, url }, people, trouble('looking back failed'));
  const notices = new Notices(database, people);
  const gauges = new Gauges(database, moments.log, trouble('keeping a small tideline failed'));
  const looks = new Looks(database, gauges);
  rooms.onAccepted((document, edits) => gauges.wrote(document, edits));
  const facts = new Facts(database);
  const settings = new Settings(facts);
  const links = new Links(database);
  const membership = new Membership(
    database,
    people,
    facts,
    settings,
    links,
    letters,
    site,
    trouble('sending mail failed'),
  );
  const post = new Post(database, people, places, credited, images, files, letters, site);
  const readingLinks = new ReadingLinks(
    database,
    people,
    shares,
    rooms,
    histories,
    site,
    trouble('counting visits failed'),
  );
  const second = new SecondOwner(settings, people.ownership);
  const bin = new Bin(database, people, shares, deletion, second, async () => (await settings.get()).binDays);
  const asking = new Asking(database, people, notices, trouble('telling owners of a question failed'));
  const checkOuts = new CheckOuts(database, rooms, versions, told, people);
  const copies = new Copies(database, rooms);
  const extents = new Extents(database, rooms);
  const reach = new ReachByRights(database, copies);
  const owners = new AskingOwners(database, people, extents, notices);
  const elsewhere = new WordsElsewhere(database);
  const messages = new Messages(join(folder, 'mail'), files);
  const journal = new Journal(folder);
  const eraser = new Eraser(
    database,
    people,
    rooms,
    seals,
    copies,
    reach,
    owners,
    extents,
    new Blanker(database, rooms, seals),
    new Derived(database, rooms, versions, gauges, comparisons, past),
    elsewhere,
    messages,
    new Search(database, rooms, messages),
    journal,
  );
  return {
    database,
    facts,
    membership,
    rules,
    discards: new Discards(database, versions, people),
    eraser,
    erasures: new Erasures(
      database,
      people,
      second,
      new Seeker(database, people, rooms, places, past),
      reach,
      owners,
      extents,
      elsewhere,
      messages,
      eraser,
      journal,
      trouble('an erasure failed'),
    ),
    thinning: new Thinning(database, people, rooms, rules, second, extents, eraser),
    /** Folder of files that are being brought in. */
    uploads,
    people,
    groups,
    shares,
    collections,
    claims,
    images,
    shown: new ShownImages(database.epochs, images, histories),
    files,
    comparisons,
    rooms,
    versions,
    told,
    documents,
    places,
    credited,
    becoming,
    filing,
    seals,
    readingLinks,
    bin,
    deletion,
    digests: new Digests(database, people, notices, letters, site),
    settings,
    letters,
    past,
    chronicles: past.chronicles,
    notices,
    looks,
    met: new Met(database, people, gauges),
    checkOuts,
    archives: new Archives(database, people, claims, moments.log, seals, images, files, documents),
    arrivals: new Arrivals(database, people, claims, documents, moments, filing, letters),
    post,
    asking,
    sharing: new Sharing(database, people, groups, shares, membership, post, rooms, versions, asking),
    landmarks: new Landmarks(database, people, told),
    homecoming: new Homecoming(database, histories, becoming, people, images, comparisons),
    returned: new ReturnedFiles(filing, places, becoming, images, comparisons),
    assembling: new Assembling(documents, places, histories, becoming, comparisons, images),
    takingBack: new TakingBack(histories, becoming, past, comparisons, people),
    lookingBack: past.lookingBack,
    shelf: new Shelf(database, gauges, told, people, looks, checkOuts),
    watching: past.watching,
  };
}
