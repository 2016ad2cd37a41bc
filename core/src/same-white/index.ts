export { type GapOfJob, type GivenWhite, type WhiteTarget, giveWhite } from './give-white';
