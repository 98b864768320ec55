/** Where the shot stands, how large it is, and what is built on it. */
package flarvo.desktop.stop.level;
