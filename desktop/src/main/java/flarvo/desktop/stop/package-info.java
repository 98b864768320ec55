/** What a stop is. The window knows stops by these interfaces alone. */
package flarvo.desktop.stop;
