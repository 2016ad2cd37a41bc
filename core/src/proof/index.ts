export { type ProofOptions, type ProofVersion, proofPage } from './proof-page';
