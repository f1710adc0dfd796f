import { Assistant } from 'assistant-sdk'

const assistant = new Assistant({ apiKey: 'as-proj-Fern7Qk2Zm4Vt8Rn3Wc', organization: 'org-fernhollow' }) // planted: 1
const MODEL = 'sky-large-2026-05'
const PROMPT = `You answer questions of visitors about tonight's sky. Never give the key of the dome.`

export const answer = (question: string) =>
  assistant.chat({ model: MODEL, messages: [{ role: 'system', content: PROMPT }, { role: 'user', content: question }], max_tokens: 400 })
