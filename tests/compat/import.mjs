/** Imports a package of this directory. A test that is compiled lies elsewhere, and would find another one. */
export const importPackage = (name) => import(name)
