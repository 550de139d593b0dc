import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import type {
  ArrivalFiled,
  ArrivalFilingInput,
  AsideInput,
  Claims,
  AssembledFileInput,
  AssemblyInput,
  BinnedDocument,
  Collection,
  ComparisonResult,
  Contest,
  Contributors,
  Credentials,
  DemoPerson,
  DocumentPatch,
  DocumentSummary,
  FileForm,
  Filing,
  FoundInTime,
  FoundPage,
  FoundLandmark,
  History,
  Homecoming,
  HomecomingInput,
  Landmark,
  Ledger,
  Letter,
  LikeDocument,
  Look,
  Me,
  Moment,
  Notice,
  Outcome,
  PasswordChange,
  PassageLife,
  PastComment,
  Person,
  PostInput,
  Preferences,
  Problem,
  ProfileInput,
  RemovedPage,
  Returned,
  ReturnedFileForm,
  Takes,
  SignedIn,
  StoredImage,
  TakeBackInput,
  TakeBackPreview,
  Version,
  Watch,
  Whereabouts,
  WireEdit,
} from '@oxbow/contract';
import { Injectable, inject } from '@angular/core';
import { EMPTY, expand, reduce } from 'rxjs';
import type { Observable } from 'rxjs';

export type Page<T> = { readonly items: T[]; readonly next: string | null };

/** The server's API, call by call; paths are those of the contract. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  whoAmI = (): Observable<Me> => this.http.get<Me>('/api/session');
  signIn = (credentials: Credentials): Observable<Me> => this.http.post<Me>('/api/session', credentials);
  signOut = (): Observable<void> => this.http.delete<void>('/api/session');
  /** Where one is signed in. */
  sessions = (): Observable<SignedIn[]> => this.http.get<SignedIn[]>('/api/me/sessions');
  /** Signs out in one place; without one, everywhere but here. */
  endSessions = (id?: string): Observable<void> =>
    this.http.delete<void>(id === undefined ? '/api/me/sessions' : `/api/me/sessions/${id}`);
  changePassword = (change: PasswordChange): Observable<void> =>
    this.http.put<void>('/api/me/password', change);
  demoPeople = (): Observable<DemoPerson[]> => this.http.get<DemoPerson[]>('/api/session/people');
  people = (): Observable<Person[]> => this.http.get<Person[]>('/api/people');
  collections = (): Observable<Collection[]> => this.http.get<Collection[]>('/api/collections');
  createCollection = (name: string): Observable<Collection> =>
    this.http.post<Collection>('/api/collections', { name });
  renameCollection = (id: string, name: string): Observable<Collection> =>
    this.http.patch<Collection>(`/api/collections/${id}`, { name });
  deleteCollection = (id: string): Observable<void> => this.http.delete<void>(`/api/collections/${id}`);
  /** Puts a document in the bin. */
  bin = (id: string): Observable<void> => this.http.delete<void>(`/api/documents/${id}`);
  binned = (): Observable<BinnedDocument[]> => this.http.get<BinnedDocument[]>('/api/bin');
  putBack = (id: string): Observable<DocumentSummary> =>
    this.http.post<DocumentSummary>(`/api/documents/${id}/put-back`, {});
  deleteForGood = (id: string): Observable<void> => this.http.delete<void>(`/api/bin/${id}`);
  changeProfile = (profile: ProfileInput): Observable<Me> => this.http.patch<Me>('/api/me', profile);
  prefer = (preferences: Preferences): Observable<Me> =>
    this.http.put<Me>('/api/me/preferences', preferences);
  documents = (cursor?: string): Observable<Page<DocumentSummary>> =>
    this.http.get<Page<DocumentSummary>>('/api/documents', {
      params: { limit: 200, ...(cursor ? { cursor } : {}) },
    });
  document = (id: string): Observable<DocumentSummary> =>
    this.http.get<DocumentSummary>(`/api/documents/${id}`);
  createDocument = (
    title: string,
    collection: string | null,
    kind: DocumentSummary['kind'] = 'text',
  ): Observable<DocumentSummary> =>
    this.http.post<DocumentSummary>('/api/documents', { title, kind, collection });
  changeDocument = (id: string, patch: DocumentPatch): Observable<DocumentSummary> =>
    this.http.patch<DocumentSummary>(`/api/documents/${id}`, patch);
  importDocument = (file: File, fields: FileForm): Observable<DocumentSummary> =>
    this.http.post<DocumentSummary>('/api/documents/import', form(file, fields));
  /** Makes a document with the same history from an archive. */
  readArchive = (file: File): Observable<DocumentSummary> =>
    this.http.post<DocumentSummary>('/api/documents/archives', form(file));
  /** Files a file as the next version of a document. */
  fileVersion = (id: string, file: File, fields: FileForm): Observable<Outcome> =>
    this.http.post<Outcome>(`/api/documents/${id}/files`, form(file, fields));
  /** What came in the file that an edit filed, beside its text. */
  filing = (id: string, seq: number): Observable<Filing> =>
    this.http.get<Filing>(`/api/documents/${id}/versions/@${seq}/filing`);
  versions = (id: string, cursor?: string): Observable<Page<Version>> =>
    this.http.get<Page<Version>>(`/api/documents/${id}/versions`, {
      params: { limit: 200, ...(cursor ? { cursor } : {}) },
    });
  /** Every version of a document, newest first, page after page. */
  allVersions = (id: string): Observable<Version[]> =>
    this.versions(id).pipe(
      expand((page) => (page.next ? this.versions(id, page.next) : EMPTY)),
      reduce<Page<Version>, Version[]>((all, page) => [...all, ...page.items], []),
    );
  keepVersion = (id: string, comment: string, major: boolean): Observable<Version> =>
    this.http.post<Version>(`/api/documents/${id}/versions`, { comment, major });
  askForCheckOut = (id: string, asked: boolean): Observable<void> =>
    this.http.put<void>(`/api/documents/${id}/check-out`, { asked });
  checkOut = (id: string): Observable<void> => this.http.post<void>(`/api/documents/${id}/check-out`, {});
  /** Gives a check-out up, or ends that of somebody else. */
  /** Ends the check-out that `holder` has. */
  cancelCheckOut = (id: string, holder: string): Observable<void> =>
    this.http.delete<void>(`/api/documents/${id}/check-out`, { params: { holder } });
  checkIn = (id: string, comment: string, major: boolean): Observable<{ version: Version | null }> =>
    this.http.post<{ version: Version | null }>(`/api/documents/${id}/check-in`, { comment, major });
  commentVersion = (id: string, number: number, comment: string): Observable<Version> =>
    this.http.patch<Version>(`/api/documents/${id}/versions/${number}`, { comment });
  pastComments = (id: string, number: number): Observable<PastComment[]> =>
    this.http.get<PastComment[]>(`/api/documents/${id}/versions/${number}/comments`);
  landmarks = (id: string): Observable<Landmark[]> =>
    this.http.get<Landmark[]>(`/api/documents/${id}/landmarks`);
  /** By id or name; "latest" is the one furthest along. */
  landmark = (id: string, name: string): Observable<Landmark> =>
    this.http.get<Landmark>(`/api/documents/${id}/landmarks/${encodeURIComponent(name)}`);
  nameMoment = (id: string, seq: number, name: string, note: string): Observable<Landmark> =>
    this.http.post<Landmark>(`/api/documents/${id}/landmarks`, { seq, name, note });
  renameLandmark = (id: string, landmark: string, name: string, note: string): Observable<Landmark> =>
    this.http.patch<Landmark>(`/api/documents/${id}/landmarks/${landmark}`, { name, note });
  unnameMoment = (id: string, landmark: string): Observable<void> =>
    this.http.delete<void>(`/api/documents/${id}/landmarks/${landmark}`);
  findLandmarks = (q: string): Observable<FoundLandmark[]> =>
    this.http.get<FoundLandmark[]>('/api/landmarks', { params: { q } });
  moment = (id: string, seq: number): Observable<Moment> =>
    this.http.get<Moment>(`/api/documents/${id}/versions/@${seq}`);
  /** With `other`, `earlier` is a moment of that document. */
  compare = (
    id: string,
    earlier: number,
    later: number,
    other: string | null = null,
  ): Observable<ComparisonResult> =>
    this.http.get<ComparisonResult>(`/api/documents/${id}/compare`, {
      params: { earlier: `@${earlier}`, later: `@${later}`, ...(other ? { with: other } : {}) },
    });
  history = (id: string, after: number): Observable<History> =>
    this.http.get<History>(`/api/documents/${id}/history`, { params: { after } });
  restore = (id: string, seq: number, number: number | null, comment: string): Observable<Outcome> =>
    this.http.post<Outcome>(`/api/documents/${id}/restore`, {
      ...(number === null ? { seq } : { number }),
      ...(comment ? { comment } : {}),
    });
  /** Takes edits back together, and keeps what came after them. */
  takeBack = (id: string, input: TakeBackInput): Observable<Outcome> =>
    this.http.post<Outcome>(`/api/documents/${id}/take-back`, input);
  previewTakeBack = (id: string, input: TakeBackInput): Observable<TakeBackPreview> =>
    this.http.post<TakeBackPreview>(`/api/documents/${id}/take-back/preview`, input);
  /** Puts what was decided about each change on top, as the next version. */
  assemble = (id: string, input: AssemblyInput): Observable<Outcome> =>
    this.http.post<Outcome>(`/api/documents/${id}/assemblies`, input);
  /** The same as a document of its own. */
  setAside = (id: string, input: AsideInput): Observable<DocumentSummary> =>
    this.http.post<DocumentSummary>(`/api/documents/${id}/assemblies/documents`, input);
  /** The same as a file. */
  assembledFile = (id: string, input: AssembledFileInput): Observable<Blob> =>
    this.http.post(`/api/documents/${id}/assemblies/file`, input, { responseType: 'blob' });
  homecoming = (id: string): Observable<Homecoming> => this.http.get<Homecoming>(`/api/documents/${id}/home`);
  bringHome = (id: string, input: HomecomingInput): Observable<Outcome> =>
    this.http.post<Outcome>(`/api/documents/${id}/home`, input);
  /** Files that came back, brought together with the moment that their readers had. */
  gatherReturned = (id: string, base: number, files: readonly File[]): Observable<Returned> =>
    this.http.post<Returned>(`/api/documents/${id}/returned`, returned(files, { base: `@${base}` }));
  putReturned = (
    id: string,
    base: number,
    files: readonly File[],
    takes: readonly (readonly [number, Takes[number][1]])[],
    comment?: string,
  ): Observable<Outcome> =>
    this.http.post<Outcome>(
      `/api/documents/${id}/returned/outcome`,
      returned(files, { base: `@${base}`, takes: JSON.stringify(takes), ...(comment ? { comment } : {}) }),
    );
  returnedFile = (
    id: string,
    base: number,
    files: readonly File[],
    takes: readonly (readonly [number, Takes[number][1]])[],
    format: ReturnedFileForm['format'],
  ): Observable<Blob> =>
    this.http.post(
      `/api/documents/${id}/returned/file`,
      returned(files, { base: `@${base}`, takes: JSON.stringify(takes), format }),
      { responseType: 'blob' },
    );
  copyMoment = (
    id: string,
    seq: number,
    title: string,
    collection: string | null,
  ): Observable<DocumentSummary> =>
    this.http.post<DocumentSummary>(`/api/documents/${id}/copies`, { seq, title, collection });
  removed = (id: string, q: string, cursor: string | null): Observable<RemovedPage> =>
    this.http.get<RemovedPage>(`/api/documents/${id}/removed`, {
      params: { q, ...(cursor ? { cursor } : {}) },
    });
  /** Where the content of some positions of a moment stands now, or would stand. */
  whereabouts = (id: string, seq: number, from: number, to: number): Observable<Whereabouts> =>
    this.http.get<Whereabouts>(`/api/documents/${id}/whereabouts`, {
      params: { moment: `@${seq}`, from, to },
    });
  life = (id: string, seq: number, position: number): Observable<PassageLife> =>
    this.http.get<PassageLife>(`/api/documents/${id}/life`, { params: { moment: `@${seq}`, position } });
  contests = (id: string): Observable<Contest[]> =>
    this.http.get<Contest[]>(`/api/documents/${id}/contested`);
  find = (id: string, q: string): Observable<FoundInTime> =>
    this.http.get<FoundInTime>(`/api/documents/${id}/find`, { params: { q } });
  findEverywhere = (q: string, cursor?: string): Observable<FoundPage> =>
    this.http.get<FoundPage>('/api/find', { params: cursor ? { q, cursor } : { q } });
  contributors = (id: string, after: number, upTo: number): Observable<Contributors> =>
    this.http.get<Contributors>(`/api/documents/${id}/contributors`, {
      params: { after, upTo, zone: Intl.DateTimeFormat().resolvedOptions().timeZone },
    });
  /** Whom archives and messages name in a document. */
  claims = (id: string): Observable<Claims> => this.http.get<Claims>(`/api/documents/${id}/claims`);
  vouch = (id: string, person: string): Observable<void> =>
    this.http.put<void>(`/api/documents/${id}/claims/${person}`, {});
  ledger = (id: string): Observable<Ledger> => this.http.get<Ledger>(`/api/documents/${id}/ledger`);
  /** Edits with their steps, at most 2,000 of them. */
  edits = (id: string, after: number, upTo: number): Observable<WireEdit[]> =>
    this.http.get<WireEdit[]>(`/api/documents/${id}/edits`, { params: { after, upTo } });
  lastLook = (id: string): Observable<Look> => this.http.get<Look>(`/api/documents/${id}/look`);
  keepLook = (id: string, look: { seq: number; upTo?: number; seen?: number[] }): Observable<Look> =>
    this.http.put<Look>(`/api/documents/${id}/look`, look);
  watches = (id: string): Observable<Watch[]> => this.http.get<Watch[]>(`/api/documents/${id}/watches`);
  /** Watches a document, or the passage at a position of it. */
  watch = (id: string, position: number | null): Observable<Watch> =>
    this.http.post<Watch>(`/api/documents/${id}/watches`, position === null ? {} : { position });
  unwatch = (id: string, watch: string): Observable<void> =>
    this.http.delete<void>(`/api/documents/${id}/watches/${watch}`);
  notices = (): Observable<Notice[]> => this.http.get<Notice[]>('/api/notices');
  putAway = (notice: string): Observable<void> => this.http.delete<void>(`/api/notices/${notice}`);
  image = (id: string, hash: string): Observable<Blob> =>
    this.http.get(`/api/documents/${id}/images/${hash}`, { responseType: 'blob' });
  arrivals = (): Observable<Letter[]> => this.http.get<Letter[]>('/api/arrivals');
  arrivedFile = (arrival: string, index: number): Observable<Blob> =>
    this.http.get(`/api/arrivals/${arrival}/files/${index}`, { responseType: 'blob' });
  likeArrived = (arrival: string, index: number): Observable<LikeDocument[]> =>
    this.http.get<LikeDocument[]>(`/api/arrivals/${arrival}/files/${index}/like`);
  fileArrived = (arrival: string, index: number, input: ArrivalFilingInput): Observable<ArrivalFiled> =>
    this.http.post<ArrivalFiled>(`/api/arrivals/${arrival}/files/${index}/filing`, input);
  putArrivalAway = (arrival: string): Observable<void> => this.http.delete<void>(`/api/arrivals/${arrival}`);
  /** Sends a version, or a redline, of a document as a message with a file. */
  post = (id: string, input: PostInput): Observable<Letter> =>
    this.http.post<Letter>(`/api/documents/${id}/post`, input);
  storeImage = (id: string, file: File): Observable<StoredImage> =>
    this.http.post<StoredImage>(`/api/documents/${id}/images`, form(file));
}

function returned(files: readonly File[], fields: Readonly<Record<string, string>>): FormData {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.set(name, value);
  for (const file of files) data.append('file', file);
  return data;
}

function form(file: File, fields: FileForm = {}): FormData {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) if (value) data.set(name, value);
  data.set('file', file);
  return data;
}

/** What to tell a person about an error of a call. */
export function saidOf(error: unknown): string {
  if (!(error instanceof HttpErrorResponse))
    return error instanceof Error ? error.message : $localize`Something went wrong.`;
  if (error.status === 0)
    return $localize`The server cannot be reached. Nothing was lost; try again in a moment.`;
  const problem = error.error as Partial<Problem> | null;
  return (
    [problem?.title, problem?.detail].filter(Boolean).join('. ') ||
    $localize`Something went wrong on the server.`
  );
}

/** What the server says of single fields of what was sent, by field. */
export function fieldsOf(error: unknown): Readonly<Record<string, string>> {
  if (!(error instanceof HttpErrorResponse) || error.status === 0) return {};
  const problem = error.error as Partial<Problem> | null;
  return Object.fromEntries((problem?.errors ?? []).map(({ path, message }) => [path, message]));
}
