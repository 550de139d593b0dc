import type { Routes } from '@angular/router';
import { toLandmark, toMoment } from './desk/links';
import { signedIn } from './session/guard';

/** The rooms of the app. The desk, with the editor, is fetched when first needed. */
export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Oxbow Tide',
    loadComponent: async () => (await import('./session/sign-in')).SignIn,
  },
  {
    path: '',
    pathMatch: 'full',
    title: 'Shelf · Oxbow Tide',
    canActivate: [signedIn],
    loadComponent: async () => (await import('./shelf/shelf')).Shelf,
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
    path: 'documents/:id',
    title: 'Oxbow Tide',
    canActivate: [signedIn],
    loadComponent: async () => (await import('./desk/desk')).Desk,
  },
  { path: '**', redirectTo: '' },
];
