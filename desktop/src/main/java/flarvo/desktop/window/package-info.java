/**
 * The frame round the stops: line, manifest, ladder, status, finder, key card. It names no stop.
 */
package flarvo.desktop.window;
