/**
 * `mappa-settings/etcd`: settings in etcd, which many machines share. Speaks the JSON gateway of etcd 3.4 and later with the HTTP of Node, so
 * that no dependency comes with it.
 *
 * @module mappa-settings/etcd
 */
export type { TlsOptions } from '@mappa/node/http/send'
export { etcdStore } from '@mappa/node/stores/etcd/etcd-store'
export type { EtcdOptions } from '@mappa/node/stores/etcd/options'
