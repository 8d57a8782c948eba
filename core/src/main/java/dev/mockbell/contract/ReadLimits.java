package dev.mockbell.contract;

import dev.mockbell.xml.XmlLimits;
import java.time.Duration;

/**
 * What the reader of a contract takes before it gives up, with a clear error for the WSDL itself and a finding for what
 * it imports.
 *
 * @param document for each document
 * @param documents greatest number of documents
 * @param timeout how long to wait for each document
 */
public record ReadLimits(XmlLimits document, int documents, Duration timeout) {
    /** 64 MB a document, 1,000 levels, 2,000 documents, 30 seconds. */
    public static final ReadLimits USUAL = new ReadLimits(XmlLimits.CONTRACT, 2_000, Duration.ofSeconds(30));
}
