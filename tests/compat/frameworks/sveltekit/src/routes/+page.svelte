<script lang="ts">
import { settings } from 'virtual:mappa/browser'

const { data } = $props()
const { map } = settings.visitor
</script>

<p id="map">{map}</p>
<p id="notice">{data.notice}</p>
<p id="slip">{data.slip}</p>
