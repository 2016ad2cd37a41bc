export { DEFAULT_PREFERENCES, type Preferences, preferencesSchema } from './preferences';
