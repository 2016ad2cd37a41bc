import type { Routes } from '@angular/router';

const bench = () => import('./bench/bench.page').then((m) => m.BenchPage);

/** Begins to load the page that an address leads to, while the application starts. */
export const preloadFor = (path: string): void => {
  if (path.startsWith('/jobs/')) bench().catch(() => undefined);
};

export const routes: Routes = [
  { path: '', pathMatch: 'full', title: 'Shelf · Jentrix', loadComponent: () => import('./shelf/shelf.page').then((m) => m.ShelfPage) },
  { path: 'jobs/:id', title: 'Bench · Jentrix', loadComponent: bench },
  { path: 'type-case', title: 'Type case · Jentrix', loadComponent: () => import('./type-case/type-case.page').then((m) => m.TypeCasePage) },
  { path: 'recipes', title: 'Recipes · Jentrix', loadComponent: () => import('./recipes/recipes.page').then((m) => m.RecipesPage) },
  { path: 'drill', title: 'Drill · Jentrix', loadComponent: () => import('./drill/drill.page').then((m) => m.DrillPage) },
  { path: '**', redirectTo: '' },
];
