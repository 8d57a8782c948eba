package dev.mockbell.demo.trails;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlInlineBinaryData;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import javax.xml.datatype.XMLGregorianCalendar;

/** How the stages of a trail are on a day. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlType(
        name = "TrailReport",
        propOrder = {"trailId", "day", "stages"})
public final class TrailReport {
    @XmlElement(required = true)
    public String trailId;

    @XmlElement(required = true)
    @XmlSchemaType(name = "date")
    public XMLGregorianCalendar day;

    /** CSV of UTF-8. */
    @XmlElement(required = true)
    @XmlInlineBinaryData
    public byte[] stages;
}
