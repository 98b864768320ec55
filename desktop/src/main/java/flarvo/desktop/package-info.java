/**
 * The window. Screens hold state and views; every number on them comes from the core, and every
 * point is drawn through the core's own projection.
 */
package flarvo.desktop;
