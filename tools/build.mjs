import { buildWhenNeeded, installWhenNeeded } from './steps.mjs';

// `npm run build`: everything that `npm start` needs.
installWhenNeeded();
buildWhenNeeded();
