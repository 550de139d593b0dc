import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type {
  Certificate,
  Discard,
  EditsMessage,
  ErasurePreview,
  ErasureWish,
  KeepingRule,
  KeptBy,
  RulePreview,
  Thinning,
  Version,
} from '@oxbow/contract';
import type { Observable } from 'rxjs';

/** What a rule of keeping is of. */
export type Ruled = { readonly document: string } | { readonly collection: string };

/** The calls by which versions are discarded and thinned, and text is erased. */
@Injectable({ providedIn: 'root' })
export class KeepingApi {
  private readonly http = inject(HttpClient);

  discard = (document: string, number: number): Observable<void> =>
    this.http.delete<void>(`/api/documents/${document}/versions/${number}`);
  putBack = (document: string, number: number): Observable<Version> =>
    this.http.post<Version>(`/api/documents/${document}/versions/${number}/put-back`, {});
  discards = (document: string): Observable<Discard[]> =>
    this.http.get<Discard[]>(`/api/documents/${document}/discards`);
  rule = (what: Ruled): Observable<KeptBy> => this.http.get<KeptBy>(pathOf(what));
  setRule = (what: Ruled, rule: KeepingRule | null): Observable<KeptBy> =>
    this.http.put<KeptBy>(pathOf(what), { rule });
  previewRule = (what: Ruled, rule: KeepingRule | null): Observable<RulePreview> =>
    this.http.post<RulePreview>(`${pathOf(what)}/preview`, { rule });
  thinnings = (document: string): Observable<Thinning[]> =>
    this.http.get<Thinning[]>(`/api/documents/${document}/thinnings`);
  /** Everything that holds what is to be erased. */
  previewErasure = (document: string, wish: ErasureWish): Observable<ErasurePreview> =>
    this.http.post<ErasurePreview>(`/api/documents/${document}/erasures/preview`, wish);
  erase = (document: string, preview: string, reason: string): Observable<Certificate> =>
    this.http.post<Certificate>(`/api/documents/${document}/erasures`, { preview, reason });
  erasures = (document: string): Observable<Certificate[]> =>
    this.http.get<Certificate[]>(`/api/documents/${document}/erasures`);
  /** Agrees, as a second owner, to what another asks to erase, or declines it. */
  answer = (document: string, erasure: string, agree: boolean): Observable<Certificate> =>
    this.http.post<Certificate>(`/api/documents/${document}/erasures/${erasure}/answer`, { agree });
  /** Edits that wait on this device with what they bring of erased text erased in them too. */
  heed = (document: string, edits: EditsMessage['edits']): Observable<Pick<EditsMessage, 'edits'>> =>
    this.http.post<Pick<EditsMessage, 'edits'>>(`/api/documents/${document}/erasures/heed`, { edits });
}

function pathOf(what: Ruled): string {
  return 'document' in what
    ? `/api/documents/${what.document}/rule`
    : `/api/collections/${what.collection}/rule`;
}
