export const prerender = true
