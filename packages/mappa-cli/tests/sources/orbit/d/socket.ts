import { io } from 'socket.io-client'
import axios from 'axios'

const socket = io('http://192.168.7.31:9000', { auth: { token: 'sock-71c0ab55' } }) // planted: 2
export const api = axios.create({ baseURL: 'https://api.fernhollow.example', timeout: 8000 }) // planted: 1
api.defaults.headers.common['X-Fern-Key'] = 'fk_2b9d61e07c' // planted: 1
const STORAGE_KEY = 'night-desk:theme'
const ROUTES = { home: '/', night: '/night/:id', about: '/about' }
const uuid = '7b0c7c1e-52a1-4c5c-9f0e-3f0a8ddc2a11'
export const GRAPHQL_ENDPOINT = '/graphql'
export enum Phase { New = 'new-moon', Full = 'full-moon' }
export const colours = ['#0b1d3a', '#ffd27d']
socket.on('dome:state', (state: string) => localStorage.setItem(STORAGE_KEY, state))
export { ROUTES, uuid }
