/** Picture and Space: viewports that draw layers and hand presses to tools. */
package flarvo.desktop.view;
