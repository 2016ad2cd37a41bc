export * from './api';
