import type { Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', pathMatch: 'full', title: 'Shelf · Jentrix', loadComponent: () => import('./shelf/shelf.page').then((m) => m.ShelfPage) },
  { path: 'jobs/:id', title: 'Bench · Jentrix', loadComponent: () => import('./bench/bench.page').then((m) => m.BenchPage) },
  { path: 'type-case', title: 'Type case · Jentrix', loadComponent: () => import('./type-case/type-case.page').then((m) => m.TypeCasePage) },
  { path: 'recipes', title: 'Recipes · Jentrix', loadComponent: () => import('./recipes/recipes.page').then((m) => m.RecipesPage) },
  { path: '**', redirectTo: '' },
];
