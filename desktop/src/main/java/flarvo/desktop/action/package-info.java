/**
 * What can be done: by key, by button, or found by name; with the reason where it cannot be done
 * now.
 */
package flarvo.desktop.action;
