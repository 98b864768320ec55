/** Background work in lanes. Only this room makes threads, beside the plate cache. */
package flarvo.desktop.work;
