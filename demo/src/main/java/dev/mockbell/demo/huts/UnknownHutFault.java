package dev.mockbell.demo.huts;

import jakarta.xml.ws.WebFault;

/** The fault UnknownHut. */
@WebFault(name = "UnknownHut", targetNamespace = "urn:northfell:hut-booking")
public final class UnknownHutFault extends Exception {
    private static final long serialVersionUID = 1L;

    private final transient UnknownHut info;

    public UnknownHutFault(String reason, UnknownHut info) {
        super(reason);
        this.info = info;
    }

    /** The content of the fault's detail. */
    public UnknownHut getFaultInfo() {
        return info;
    }
}
