export { DEFAULT_PREFERENCES, type Preferences, limitsOf, preferencesSchema } from './preferences';
