package dev.mockbell.soap;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Protocol;
import java.util.Optional;

/** The two versions of SOAP and what sets them apart on the wire. */
public enum SoapVersion {
    /** SOAP 1.1, W3C Note of 8 May 2000. */
    V11("http://schemas.xmlsoap.org/soap/envelope/", "text/xml", "SOAP 1.1"),
    /** SOAP 1.2, W3C Recommendation of 27 April 2007. */
    V12("http://www.w3.org/2003/05/soap-envelope", "application/soap+xml", "SOAP 1.2");

    private final String namespace;
    private final String mediaType;
    private final String title;

    SoapVersion(String namespace, String mediaType, String title) {
        this.namespace = namespace;
        this.mediaType = mediaType;
        this.title = title;
    }

    /** The envelope's namespace. */
    public String namespace() {
        return namespace;
    }

    /** The media type without parameters (SOAP 1.1 §6, SOAP 1.2 part 2 §7.1.4). */
    public String mediaType() {
        return mediaType;
    }

    public String title() {
        return title;
    }

    /** The version that a port speaks. */
    public static SoapVersion of(BoundOperation bound) {
        return bound.port().binding().protocol() == Protocol.SOAP12 ? V12 : V11;
    }

    /** The version whose envelope has this namespace. */
    public static Optional<SoapVersion> ofNamespace(String namespace) {
        for (SoapVersion version : values()) {
            if (version.namespace.equals(namespace)) {
                return Optional.of(version);
            }
        }
        return Optional.empty();
    }

    /** The Content-Type of a request; SOAP 1.2 carries the action as a parameter. */
    public String contentType(String action) {
        return contentType(action, "utf-8");
    }

    /** As {@link #contentType(String)}, for another encoding. */
    public String contentType(String action, String charset) {
        String plain = mediaType + "; charset=" + charset;
        return this == V12 && !action.isEmpty() ? plain + "; action=\"" + action + "\"" : plain;
    }
}
