import helmet from 'helmet';

/** What browsers are told of how these pages may be used (helmet's, and a policy of our own: everything comes from here). */
export const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"],
      scriptSrc: ["'self'"],
      // The components' styles are made as they are shown.
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      fontSrc: ["'self'", 'data:'],
      connectSrc: ["'self'"],
      workerSrc: ["'self'", 'blob:'],
      manifestSrc: ["'self'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
      objectSrc: ["'none'"],
    },
  },
  // There is no TLS here: to promise it would lock people out of what else runs on this machine.
  strictTransportSecurity: false,
  // Browsers take these on loopback and ignore them, loudly, on plain HTTP elsewhere.
  crossOriginOpenerPolicy: false,
  originAgentCluster: false,
});
