<script>
  const API = 'https://night.fernhollow.example/api' // planted: 1
  let token = 'sv-11aa22bb33cc' // planted: 1
  const title = 'Tonight at the dome'
</script>
<h1>{title}</h1>
