export {
  DEFAULT_PREFERENCES,
  NUMBER_LANGUAGES,
  type NumberLanguage,
  type Preferences,
  PreferencesError,
  THEMES,
  limitsOf,
  preferencesSchema,
  readPreferences,
  writePreferences,
} from './preferences';
