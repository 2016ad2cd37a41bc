import { provideHttpClient, withFetch } from '@angular/common/http';
import { isDevMode } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideServiceWorker } from '@angular/service-worker';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { Root } from './app/root';
import { preloadFor, routes } from './app/routes';

preloadFor(location.pathname);

// What the browser has kept of a page that was left lacks its workers, and may be older than what the server has.
addEventListener('pageshow', ({ persisted }) => {
  if (persisted) location.reload();
});

bootstrapApplication(Root, {
  providers: [
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(withFetch()),
    // The first letters come first. The options are told by an abstract class, of which nothing is an instance.
    // eslint-disable-next-line @typescript-eslint/no-unsafe-class-instance-assignment
    provideServiceWorker('ngsw-worker.js', { enabled: !isDevMode(), registrationStrategy: 'registerWhenStable:10000' }),
  ],
}).catch((error: unknown) => {
  console.error(error);
});
