/** Measurements of the core with a real harness; read them as ratios within one run. */
package flarvo.bench;
