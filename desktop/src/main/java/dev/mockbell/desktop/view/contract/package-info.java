/** The station Contract: contracts as boards of operations, the anatomy of a message, findings, the source. */
package dev.mockbell.desktop.view.contract;
