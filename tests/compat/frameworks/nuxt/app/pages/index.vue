<script setup lang="ts">
import { settings } from 'virtual:mappa/browser'

const { map } = settings.visitor
const { data } = await useFetch('/api/desk')
</script>

<template>
  <main>
    <p id="map">{{ map }}</p>
    <p id="notice">{{ data?.notice }}</p>
    <p id="slip">{{ data?.slip }}</p>
  </main>
</template>
