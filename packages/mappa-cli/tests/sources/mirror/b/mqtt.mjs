import mqtt from 'mqtt'
import net from 'node:net'

const client = mqtt.connect('mqtts://broker.fernhollow.example:8883', { username: 'dome', password: 'Hadar*Rigil' }) // planted: 2
client.subscribe('dome/+/state')
const socket = net.connect(9750, '10.4.0.31') // planted: 2
socket.write('HELLO dome 1.0\n')
http.createServer(app).listen(4455, '0.0.0.0') // planted: 2
export const QOS = { atMostOnce: 0, atLeastOnce: 1 }
export const TOPIC_KEY = 'dome/state'
