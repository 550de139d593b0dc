import type { Router } from 'express';
import express from 'express';
import { arrivalRoutes } from './arrival-routes.js';
import { checkOutRoutes } from './check-out-routes.js';
import { goingBackRoutes } from './going-back-routes.js';
import { historyRoutes } from './history-routes.js';
import { keepingRoutes } from './keeping-routes.js';
import { landmarkRoutes } from './landmark-routes.js';
import { membershipRoutes } from './membership-routes.js';
import { pastRoutes } from './past-routes.js';
import { readingPages } from './reading-page.js';
import { sessionRoutes } from './session-routes.js';
import { shareRoutes } from './share-routes.js';
import { shelfRoutes } from './shelf-routes.js';
import type { Ways } from './ways.js';

/** The API's routes: check, authorise, call, answer. */
export function apiRoutes(ways: Ways): Router {
  const router = express.Router();
  for (const routes of [
    sessionRoutes,
    membershipRoutes,
    shelfRoutes,
    historyRoutes,
    landmarkRoutes,
    pastRoutes,
    goingBackRoutes,
    keepingRoutes,
    checkOutRoutes,
    shareRoutes,
    arrivalRoutes,
    readingPages,
  ])
    routes(router, ways);
  return router;
}
