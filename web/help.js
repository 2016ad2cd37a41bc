/* global document, localStorage */
// The theme as the bench was shown last (`web/src/app/settings/user-preferences.ts`).
document.documentElement.dataset.theme = localStorage.getItem('jentrix.theme') ?? 'light';

// Back to where help was opened (`web/src/app/root.ts`).
document.addEventListener('DOMContentLoaded', () => {
  const last = JSON.parse(localStorage.getItem('jentrix.place') ?? 'null');
  const back = document.getElementById('back');
  if (!back || typeof last?.path !== 'string' || !/^\/(?!\/)/.test(last.path)) return;
  back.setAttribute('href', last.path);
  back.textContent = `Back to ${last.title}`;
});
