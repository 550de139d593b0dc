import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { Candidate, Share, ShareInput, ShareWithInput, Sharing } from '@oxbow/contract';
import type { Observable } from 'rxjs';

/** The calls about who has a document; paths are those of the contract. */
@Injectable({ providedIn: 'root' })
export class SharingApi {
  private readonly http = inject(HttpClient);
  private readonly at = (document: string, rest: string): string => `/api/documents/${document}/${rest}`;

  sharing = (document: string): Observable<Sharing> => this.http.get<Sharing>(this.at(document, 'sharing'));
  /** People here whose name or address begins so. */
  candidates = (document: string, q: string): Observable<Candidate[]> =>
    this.http.get<Candidate[]>(this.at(document, 'candidates'), { params: { q } });
  share = (document: string, input: ShareWithInput): Observable<Sharing> =>
    this.http.post<Sharing>(this.at(document, 'shares'), input);
  change = (document: string, person: string, input: ShareInput): Observable<Share> =>
    this.http.put<Share>(this.at(document, `shares/${person}`), input);
  sendAgain = (document: string, whom: { email: string } | { person: string }): Observable<Sharing> =>
    this.http.post<Sharing>(this.at(document, 'shares/send'), whom);
  end = (document: string, person: string): Observable<void> =>
    this.http.delete<void>(this.at(document, `shares/${person}`));
  endInvited = (document: string, email: string): Observable<void> =>
    this.http.delete<void>(this.at(document, 'invited'), { params: { email } });
  endAll = (document: string): Observable<void> => this.http.delete<void>(this.at(document, 'shares'));
}
