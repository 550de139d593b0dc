import { Type } from '@sinclair/typebox';
import { Me, Preferences, ProfileInput } from './membership.js';
import { operation } from './operation.js';
import * as shape from './shapes.js';

/** Who one is: signing in and out, where one is signed in, and one's password. */
export const accountOperations = {
  signIn: operation({
    id: 'signIn',
    method: 'post',
    path: '/api/session',
    summary: 'Sign in; sets the session cookie',
    body: shape.Credentials,
    status: 200,
    answer: Me,
    open: true,
  }),
  whoAmI: operation({
    id: 'whoAmI',
    method: 'get',
    path: '/api/session',
    summary: 'Who is signed in',
    status: 200,
    answer: Me,
  }),
  signOut: operation({
    id: 'signOut',
    method: 'delete',
    path: '/api/session',
    summary: 'Sign out',
    status: 204,
    answer: null,
  }),
  demoPeople: operation({
    id: 'demoPeople',
    method: 'get',
    path: '/api/session/people',
    summary: 'The invented people of the demo; 404 outside demo mode',
    status: 200,
    answer: Type.Array(shape.DemoPerson),
    open: true,
  }),
  listSessions: operation({
    id: 'listSessions',
    method: 'get',
    path: '/api/me/sessions',
    summary: 'Where one is signed in, the places used last first',
    status: 200,
    answer: Type.Array(shape.SignedIn),
  }),
  endOtherSessions: operation({
    id: 'endOtherSessions',
    method: 'delete',
    path: '/api/me/sessions',
    summary: 'Sign out everywhere but here',
    status: 204,
    answer: null,
  }),
  endSession: operation({
    id: 'endSession',
    method: 'delete',
    path: '/api/me/sessions/:session',
    summary: 'Sign out in one place',
    status: 204,
    answer: null,
  }),
  changeProfile: operation({
    id: 'changeProfile',
    method: 'patch',
    path: '/api/me',
    summary: 'Change the name, initials and colour under which one is told to others',
    body: ProfileInput,
    status: 200,
    answer: Me,
  }),
  changePreferences: operation({
    id: 'changePreferences',
    method: 'put',
    path: '/api/me/preferences',
    summary: 'Change how one wants things for oneself',
    body: Preferences,
    status: 200,
    answer: Me,
  }),
  changePassword: operation({
    id: 'changePassword',
    method: 'put',
    path: '/api/me/password',
    summary: 'Change one\u2019s password; signs out everywhere else. 422 for one that is too easily guessed',
    body: shape.PasswordChange,
    status: 204,
    answer: null,
  }),
};
