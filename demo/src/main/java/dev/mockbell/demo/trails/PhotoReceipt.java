package dev.mockbell.demo.trails;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import jakarta.xml.bind.annotation.adapters.HexBinaryAdapter;
import jakarta.xml.bind.annotation.adapters.XmlJavaTypeAdapter;

/** What came of a photo. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "PhotoReceipt",
        propOrder = {"contentType", "bytes", "sha256"})
public final class PhotoReceipt {
    @XmlElement(required = true)
    public String contentType;

    public long bytes;

    @XmlElement(required = true)
    @XmlJavaTypeAdapter(HexBinaryAdapter.class)
    @XmlSchemaType(name = "hexBinary")
    public byte[] sha256;
}
