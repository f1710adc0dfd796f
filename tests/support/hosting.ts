/** The service that stands in for one which hosts settings. */
export { type Faults, Hosting } from '../../examples/stand-in/hosting.ts'
