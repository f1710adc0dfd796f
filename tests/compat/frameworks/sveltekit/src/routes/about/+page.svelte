<script lang="ts">
import { settings } from 'virtual:mappa/browser'

const { map } = settings.visitor
</script>

<p id="map">{map}</p>
