import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import type { ApplicationConfig } from '@angular/core';
import { isDevMode, provideBrowserGlobalErrorListeners, provideZonelessChangeDetection } from '@angular/core';
import { RouteReuseStrategy, provideRouter, withComponentInputBinding } from '@angular/router';
import { provideServiceWorker } from '@angular/service-worker';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { ADeskADocument, routes } from './app.routes';
import { KINDS_ON_SCREEN } from './document/kinds';
import { KINDS_HERE } from './kinds';
import { provideIcons } from './look/icons';
import { arrivalEffects, arrivals } from './arrivals/arrivals.store';
import { noticeEnded } from './session/ended';
import { session, sessionEffects } from './session/session.store';
import { noticeEffects, notices } from './notices/notices.store';
import { shelf, shelfEffects } from './documents/shelf.store';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(withFetch(), withInterceptors([noticeEnded])),
    provideStore(),
    { provide: RouteReuseStrategy, useClass: ADeskADocument },
    provideState(session),
    provideState(shelf),
    provideState(notices),
    provideState(arrivals),
    provideEffects(sessionEffects, shelfEffects, noticeEffects, arrivalEffects),
    provideIcons(),
    { provide: KINDS_ON_SCREEN, useValue: KINDS_HERE },
    provideServiceWorker('ngsw-worker.js', {
      enabled: !isDevMode(),
      registrationStrategy: 'registerWhenStable:10000',
    }),
  ],
};
