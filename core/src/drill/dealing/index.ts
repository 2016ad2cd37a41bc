/** The dealing of exercises alone: nothing of what is kept comes with it. */
export { dealFrom } from '../deal';
