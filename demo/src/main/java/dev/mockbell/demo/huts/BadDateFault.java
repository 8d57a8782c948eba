package dev.mockbell.demo.huts;

import jakarta.xml.ws.WebFault;

/** The fault BadDate. */
@WebFault(name = "BadDate", targetNamespace = "urn:northfell:hut-booking")
public final class BadDateFault extends Exception {
    private static final long serialVersionUID = 1L;

    private final transient BadDate info;

    public BadDateFault(String reason, BadDate info) {
        super(reason);
        this.info = info;
    }

    /** The content of the fault's detail. */
    public BadDate getFaultInfo() {
        return info;
    }
}
