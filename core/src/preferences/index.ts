export {
  DEFAULT_PREFERENCES,
  NUMBER_LANGUAGES,
  type NumberLanguage,
  type Preferences,
  PreferencesError,
  STORED_PREFERENCES,
  THEMES,
  limitsOf,
  preferencesSchema,
  readPreferences,
  rescuePreferences,
  writePreferences,
} from './preferences';
