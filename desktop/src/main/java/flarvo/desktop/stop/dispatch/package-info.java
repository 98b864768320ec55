/** Who gets what, in which dialect and format. */
package flarvo.desktop.stop.dispatch;
