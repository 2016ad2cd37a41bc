/* global document, localStorage */
// The look as the bench was shown last (`web/src/app/ui/preferences.service.ts`).
document.documentElement.dataset.theme = localStorage.getItem('jentrix.theme') ?? 'light';
