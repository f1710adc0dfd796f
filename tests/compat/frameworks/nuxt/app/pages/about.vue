<script setup lang="ts">
import { settings } from 'virtual:mappa/browser'

const { map } = settings.visitor
</script>

<template><p id="map">{{ map }}</p></template>
