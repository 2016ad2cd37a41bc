// Karma with Jasmine in headless Chromium; ends on "N passed, N failed".
const told = import('../scripts/told.mjs');

/** A reporter that tells failures in full and the count at the end. */
function CountReporter() {
  let passed = 0;
  let failed = 0;
  this.adapters = [];
  this.onSpecComplete = (_browser, result) => {
    if (result.skipped) return;
    const spec = [...result.suite, result.description].join(' ');
    const failure = result.success ? undefined : (result.log[0] ?? 'no reason').split('\n')[0];
    void told.then(({ tell }) => tell({ spec, seconds: result.time / 1000, failure }));
    if (result.success) passed++;
    else {
      failed++;
      console.log(`FAILED ${spec}\n${result.log.join('\n')}`);
    }
  };
  this.onBrowserError = (_browser, error) => {
    failed++;
    console.log(error);
  };
  this.onRunComplete = () => console.log(`${passed} passed, ${failed} failed`);
}

module.exports = (config) => {
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher'), { 'reporter:count': ['type', CountReporter] }],
    reporters: ['count'],
    // A failing expectation throws, so that a property that fails names its counterexample and seed.
    client: { clearContext: false, jasmine: { stopSpecOnExpectationFailure: true, timeoutInterval: 60_000 } },
    browsers: ['Bare'],
    customLaunchers: {
      Bare: {
        base: 'ChromeHeadless',
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    // A machine may have a slow minute.
    captureTimeout: 180_000,
    browserNoActivityTimeout: 180_000,
    browserDisconnectTimeout: 60_000,
    restartOnFileChange: false,
  });
};
