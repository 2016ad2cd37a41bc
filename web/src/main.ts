import { provideHttpClient, withFetch } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { Root } from './app/root';
import { preloadFor, routes } from './app/routes';

preloadFor(location.pathname);

bootstrapApplication(Root, {
  providers: [provideRouter(routes, withComponentInputBinding()), provideHttpClient(withFetch())],
}).catch((error: unknown) => {
  console.error(error);
});
