// Shows the API's document, to be read: requests are tried with a token and a program of one's own.
window.addEventListener('load', () => {
  window.SwaggerUIBundle({
    url: '/api/schema?format=json',
    dom_id: '#reference',
    deepLinking: true,
    docExpansion: 'none',
    filter: true,
    supportedSubmitMethods: [],
    validatorUrl: null,
  });
});
