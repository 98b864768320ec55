/**
 * What is built on a levelled shot: gauges, stand-in geometry, locators, depths for a tripod, and a
 * second solve laid on the first. Everything placed is kept in solve space, where the picture holds
 * it; sizes are metres.
 */
package flarvo.stage;
