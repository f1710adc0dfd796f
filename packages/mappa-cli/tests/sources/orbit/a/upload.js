const { S3Client } = require('object-store')
const client = new S3Client({
  region: 'eu-central-1',
  endpoint: 'https://photos.fernhollow.example', // planted: 1
  credentials: {
    accessKeyId: 'AKFERN7Q2LXM4VT8RN3W', // planted: 1
    secretAccessKey: 'q7V+zL2mKx9/Tr4bNw8YcP1hDsJ6fG3aUe5oIiRk', // planted: 1
  },
})
const MIME = { jpg: 'image/jpeg', png: 'image/png' }
const ALLOWED = ['image/jpeg', 'image/png']
exports.put = (name) => client.send({ Bucket: 'fern-photos', Key: `nights/${name}`, ContentType: MIME.jpg })
exports.ALLOWED = ALLOWED
