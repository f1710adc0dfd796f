module.exports = {
  development: { apiRoot: 'http://localhost:4100', dome: { token: 'drill-71ac09' } }, // planted: 2
  production: { apiRoot: 'https://api.fernhollow.example', dome: { token: 'open-c41f7be2' } }, // planted: 2
  common: { pageSize: 20, theme: 'night', dateFormat: 'yyyy-MM-dd', supportEmail: 'desk@fernhollow.example' },
}
