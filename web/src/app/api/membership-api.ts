import { HttpClient } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type {
  Group,
  GroupPatch,
  Invitation,
  InvitationInput,
  Invited,
  JoinInput,
  Me,
  Member,
  MemberPatch,
  Members,
  Organisation,
  OrganisationInput,
  OrganisationPatch,
  OrganisationSettings,
} from '@oxbow/contract';
import type { Observable } from 'rxjs';

/** The calls about who belongs here; paths are those of the contract. */
@Injectable({ providedIn: 'root' })
export class MembershipApi {
  private readonly http = inject(HttpClient);

  organisation = (): Observable<Organisation> => this.http.get<Organisation>('/api/organisation');
  setUp = (input: OrganisationInput): Observable<Me> => this.http.post<Me>('/api/organisation', input);
  /** What an invitation says to whoever holds its link. */
  invited = (token: string): Observable<Invited> => this.http.get<Invited>(`/api/join/${token}`);
  join = (token: string, input: JoinInput): Observable<Me> => this.http.post<Me>(`/api/join/${token}`, input);
  forgotten = (email: string): Observable<void> => this.http.post<void>('/api/forgotten', { email });
  reset = (token: string, password: string): Observable<void> =>
    this.http.post<void>(`/api/reset/${token}`, { password });
  settings = (): Observable<OrganisationSettings> => this.http.get<OrganisationSettings>('/api/settings');
  changeSettings = (patch: OrganisationPatch): Observable<OrganisationSettings> =>
    this.http.patch<OrganisationSettings>('/api/settings', patch);
  members = (): Observable<Members> => this.http.get<Members>('/api/members');
  change = (id: string, patch: MemberPatch): Observable<Member> =>
    this.http.patch<Member>(`/api/members/${id}`, patch);
  invite = (input: InvitationInput): Observable<Invitation> =>
    this.http.post<Invitation>('/api/people', input);
  groups = (): Observable<Group[]> => this.http.get<Group[]>('/api/groups');
  makeGroup = (name: string, people: string[]): Observable<Group> =>
    this.http.post<Group>('/api/groups', { name, people });
  changeGroup = (id: string, patch: GroupPatch): Observable<Group> =>
    this.http.patch<Group>(`/api/groups/${id}`, patch);
  deleteGroup = (id: string): Observable<void> => this.http.delete<void>(`/api/groups/${id}`);
  withdraw = (id: string): Observable<void> => this.http.delete<void>(`/api/invitations/${id}`);
}
