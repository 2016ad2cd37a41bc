export { DEFAULT_PREFERENCES, type Preferences, PreferencesError, THEMES, limitsOf, preferencesSchema, readPreferences, writePreferences } from './preferences';
