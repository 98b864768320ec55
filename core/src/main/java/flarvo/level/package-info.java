/**
 * Where a shot stands: similarities between spaces. Canonical space: right-handed, +Y up, metres.
 */
package flarvo.level;
