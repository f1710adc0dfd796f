// Types of the modules that mappa/vite makes up. Made by mappa write modules and by the plugin: do not change it by hand.

declare module 'virtual:mappa/browser' {
  /** The public settings. */
  export const settings: import('mappa').PublicValues<typeof import('./settings.definition.js').default>
}

declare module 'virtual:mappa/server' {
  /** All settings, for code that no page imports. */
  export const settings: import('mappa').Values<typeof import('./settings.definition.js').default>
}
