import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type {
  Candidate,
  ReadingLink,
  ReadingLinkInput,
  Share,
  ShareInput,
  ShareWithInput,
  Sharing,
} from '@oxbow/contract';
import type { Observable } from 'rxjs';

/** What is shared: a document, or a collection with all that is in it. */
export interface Shared {
  readonly kind: 'documents' | 'collections';
  readonly id: string;
}

/** The calls about who has a document or a collection; paths are those of the contract. */
@Injectable({ providedIn: 'root' })
export class SharingApi {
  private readonly http = inject(HttpClient);
  private readonly at = ({ kind, id }: Shared, rest: string): string => `/api/${kind}/${id}/${rest}`;
  private readonly share = (what: Shared, holder: string): string =>
    this.at(what, `shares/${encodeURIComponent(holder)}`);

  /** Asks the owners of a document for it. */
  ask = (document: string, message: string): Observable<void> =>
    this.http.post<void>(`/api/documents/${document}/asking`, message.trim() ? { message } : {});
  sharing = (what: Shared): Observable<Sharing> => this.http.get<Sharing>(this.at(what, 'sharing'));
  /** People and groups here whose name or address begins so. */
  candidates = (what: Shared, q: string): Observable<Candidate[]> =>
    this.http.get<Candidate[]>(this.at(what, 'candidates'), { params: { q } });
  shareWith = (what: Shared, input: ShareWithInput): Observable<Sharing> =>
    this.http.post<Sharing>(this.at(what, 'shares'), input);
  change = (what: Shared, holder: string, input: ShareInput): Observable<Share> =>
    this.http.put<Share>(this.share(what, holder), input);
  sendAgain = (what: Shared, holder: string): Observable<Sharing> =>
    this.http.post<Sharing>(`${this.share(what, holder)}/send`, {});
  end = (what: Shared, holder: string): Observable<void> => this.http.delete<void>(this.share(what, holder));
  /** The reading links of a document, newest first. */
  links = (document: string): Observable<ReadingLink[]> =>
    this.http.get<ReadingLink[]>(`/api/documents/${document}/links`);
  makeLink = (document: string, input: ReadingLinkInput): Observable<ReadingLink> =>
    this.http.post<ReadingLink>(`/api/documents/${document}/links`, input);
  endLink = (document: string, link: string): Observable<void> =>
    this.http.delete<void>(`/api/documents/${document}/links/${link}`);
  endAll = (what: Shared): Observable<void> => this.http.delete<void>(this.at(what, 'shares'));
}
