export { type ProofOptions, type ProofState, proofPage } from './proof-page';
