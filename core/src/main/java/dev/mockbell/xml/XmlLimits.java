package dev.mockbell.xml;

/**
 * What a reader accepts before it gives up with a clear error.
 *
 * @param depth greatest nesting of elements
 * @param entityExpansions greatest number of internal entities that are expanded
 * @param bytes greatest size of one document
 * @param doctype whether a document type declaration is read (its external part never is)
 */
public record XmlLimits(int depth, int entityExpansions, long bytes, boolean doctype) {
    /** For WSDL and schema documents: an internal subset is read, tightly. */
    public static final XmlLimits CONTRACT = new XmlLimits(1_000, 2_000, 64L << 20, true);
    /** For SOAP messages: a document type declaration is refused (SOAP 1.1 §3, SOAP 1.2 part 1 §5). */
    public static final XmlLimits MESSAGE = new XmlLimits(5_000, 0, 512L << 20, false);
}
