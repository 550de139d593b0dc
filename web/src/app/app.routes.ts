import { BaseRouteReuseStrategy } from '@angular/router';
import type { ActivatedRouteSnapshot, Routes } from '@angular/router';
import { toLandmark, toMoment } from './desk/links';
import { signedIn } from './session/guard';

/** A desk belongs to one document: another document gets another desk, with nothing of the last one in it. */
export class ADeskADocument extends BaseRouteReuseStrategy {
  override shouldReuseRoute(future: ActivatedRouteSnapshot, current: ActivatedRouteSnapshot): boolean {
    return super.shouldReuseRoute(future, current) && future.params['id'] === current.params['id'];
  }
}

/** The rooms of the app. The desk, with the editor, is fetched when first needed. */
export const routes: Routes = [
  {
    path: 'sign-in',
    title: $localize`Sign in · Oxbow Tide`,
    loadComponent: async () => (await import('./session/sign-in')).SignIn,
  },
  {
    path: '',
    pathMatch: 'full',
    title: $localize`Shelf · Oxbow Tide`,
    canActivate: [signedIn],
    loadComponent: async () => (await import('./shelf/shelf')).Shelf,
  },
  {
    path: 'arrivals',
    title: $localize`Arrivals · Oxbow Tide`,
    canActivate: [signedIn],
    loadComponent: async () => (await import('./arrivals/arrivals')).Arrivals,
  },
  {
    path: 'welcome',
    title: $localize`Welcome · Oxbow Tide`,
    loadComponent: async () => (await import('./moving-in/welcome')).Welcome,
  },
  {
    path: 'join/:token',
    title: $localize`An invitation · Oxbow Tide`,
    loadComponent: async () => (await import('./moving-in/join')).Join,
  },
  {
    path: 'forgotten',
    title: $localize`A new password · Oxbow Tide`,
    loadComponent: async () => (await import('./moving-in/forgotten')).Forgotten,
  },
  {
    path: 'reset/:token',
    title: $localize`A new password · Oxbow Tide`,
    loadComponent: async () => (await import('./moving-in/reset')).Reset,
  },
  {
    path: 'people',
    title: $localize`People · Oxbow Tide`,
    canActivate: [signedIn],
    loadComponent: async () => (await import('./members/members')).Members,
  },
  {
    path: 'bin',
    title: $localize`Bin · Oxbow Tide`,
    canActivate: [signedIn],
    loadComponent: async () => (await import('./bin/bin')).Bin,
  },
  {
    path: 'account',
    title: $localize`Your account · Oxbow Tide`,
    canActivate: [signedIn],
    loadComponent: async () => (await import('./account/account')).Account,
  },
  {
    path: 'documents/:id/moments/:seq',
    canActivate: [signedIn, toMoment],
    children: [],
  },
  {
    path: 'documents/:id/landmarks/:name',
    canActivate: [signedIn, toLandmark],
    children: [],
  },
  {
    path: 'documents/:id/no-access',
    title: $localize`No access · Oxbow Tide`,
    canActivate: [signedIn],
    loadComponent: async () => (await import('./no-access/no-access')).NoAccess,
  },
  {
    path: 'documents/:id/sharing',
    title: $localize`Sharing · Oxbow Tide`,
    data: { kind: 'documents' },
    canActivate: [signedIn],
    loadComponent: async () => (await import('./sharing/sharing')).Sharing,
  },
  {
    path: 'collections/:id/sharing',
    title: $localize`Sharing · Oxbow Tide`,
    data: { kind: 'collections' },
    canActivate: [signedIn],
    loadComponent: async () => (await import('./sharing/sharing')).Sharing,
  },
  {
    path: 'documents/:id/keeping',
    title: $localize`Keeping · Oxbow Tide`,
    data: { kind: 'documents' },
    canActivate: [signedIn],
    loadComponent: async () => (await import('./keeping/keeping')).Keeping,
  },
  {
    path: 'collections/:id/keeping',
    title: $localize`Keeping · Oxbow Tide`,
    data: { kind: 'collections' },
    canActivate: [signedIn],
    loadComponent: async () => (await import('./keeping/keeping')).Keeping,
  },
  {
    path: 'documents/:id',
    title: 'Oxbow Tide',
    canActivate: [signedIn],
    loadComponent: async () => (await import('./desk/desk')).Desk,
  },
  {
    path: '**',
    title: $localize`No such page · Oxbow Tide`,
    loadComponent: async () => (await import('./no-access/unknown')).Unknown,
  },
];
