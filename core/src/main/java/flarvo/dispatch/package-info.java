/** What goes out: a shot in a recipient's dialect, written whole or not at all. */
package flarvo.dispatch;
