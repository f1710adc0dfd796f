/** Settings of the page. */
const config = {
  images: { remotePatterns: [{ protocol: 'https', hostname: 'photos.fernhollow.example' }] }, // planted: 1
  async rewrites() {
    return [{ source: '/api/:path*', destination: 'http://127.0.0.1:4100/:path*' }] // planted: 1
  },
  env: { ERRORS_DSN: 'https://0f3ab19c7d42@errors.fernhollow.example/14' }, // planted: 1
  experimental: { typedRoutes: true },
}
export default config
