/** A store under faults, as the long run has it. */
export { runFaults } from '../../scripts/store-faults.ts'
