/**
 * Makes the demo production from a known truth: scene, camera and lens are formulas; plates are
 * rendered through them, tracks are projected through them and then spoiled by stated noise. The
 * same seed gives the same bytes. Space, units and picture are those of {@link flarvo.scene}.
 */
package flarvo.demo;
